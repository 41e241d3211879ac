import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { Button } from "../../kit/Button";
import { Pages } from "../../kit/Pages";
import { TextBox } from "../../kit/TextBox";
import { type GuidePage, PAGES, searched } from "./pages";

interface TextProps {
  page: GuidePage;
  onPage: (key: string) => void;
}

/** A page of the guide as it is written; its links open others. */
export function GuideText({ page, onPage }: TextProps) {
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the links in it are what keys reach
    // biome-ignore lint/a11y/noStaticElementInteractions: it only listens for its links
    <div
      className="guide max-w-[68ch]"
      onClick={(event) => {
        const link = event.target instanceof Element ? event.target.closest("a[data-page]") : null;
        if (!(link instanceof HTMLElement)) return;
        event.preventDefault();
        onPage(link.dataset.page ?? "");
      }}
      // biome-ignore lint/security/noDangerouslySetInnerHtml: our own text, from this very build
      dangerouslySetInnerHTML={{ __html: page.html }}
    />
  );
}

/** The whole guide: searched, page by page, or printed. */
export function Guide() {
  const { kitchen, page: key = "first" } = useParams();
  const navigate = useNavigate();
  const [words, setWords] = useState("");
  // biome-ignore lint/correctness/useExhaustiveDependencies: another page is another thing than what was looked for
  useEffect(() => {
    setWords("");
    window.scrollTo(0, 0);
  }, [key]);
  const page = PAGES.find((one) => one.key === key) ?? PAGES[0];
  const open = (to: string) => {
    setWords("");
    navigate(`/k/${kitchen}/guide/${to}`);
  };
  const hits = searched(words);
  if (!page) return null;
  return (
    <>
      <div className="mb-4 flex flex-wrap items-end gap-4 print:hidden">
        <h1 className="mr-auto">The guide</h1>
        <div className="w-72">
          <TextBox label="Find in the guide" value={words} onChange={setWords} />
        </div>
        <Button onClick={() => window.print()}>Print this page</Button>
      </div>
      <Pages
        label="Pages of the guide"
        pages={PAGES.map((one) => ({
          to: `/k/${kitchen}/guide/${one.key}`,
          shown: one.title,
          here: one === page,
        }))}
      >
        {words.trim() ? (
          <section aria-label="Found in the guide" className="max-w-[68ch]">
            {hits.length === 0 ? (
              <p className="text-soft">
                Nothing in the guide holds these words. Try one of them, or another word for it.
              </p>
            ) : null}
            <ul>
              {hits.map(({ page: where, piece }) => (
                <li key={piece} className="border-b border-hair py-3">
                  <button
                    type="button"
                    className="min-h-11 text-left font-bold underline"
                    onClick={() => open(where.key)}
                  >
                    {where.title}
                  </button>
                  <p>{piece}</p>
                </li>
              ))}
            </ul>
          </section>
        ) : (
          <article>
            <h2 className="mb-3 text-[1.6rem]">{page.title}</h2>
            <GuideText page={page} onPage={open} />
          </article>
        )}
      </Pages>
    </>
  );
}
