import { useEffect, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import { useOutbox } from "../../api/outbox";
import { useFamilyName } from "../../api/queries";
import { type About, type Said, type Trouble as Told, useSeen, useTrouble } from "../../api/trouble";
import { FAMILIES } from "../../contract/words";
import { Facts } from "../../kit/Facts";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { massText } from "../../kit/units";
import { Answer } from "./Answer";
import { Questions } from "./Questions";
import { SeenList } from "./SeenList";
import { WhatHappened } from "./WhatHappened";
import { Which } from "./Which";

/** Something has gone wrong: what is seen, what made it, whether it can be saved, and with how many grams. */
export function Trouble() {
  const [words, setWords] = useSearchParams();
  const about = aboutOf(words);
  const fault = words.get("seen");
  const choose = (seen: string | null) => {
    const next = new URLSearchParams(words);
    if (seen === null) next.delete("seen");
    else next.set("seen", seen);
    setWords(next, { replace: fault !== null && seen !== null });
  };
  if (about === null)
    return fault === null ? (
      <AnySign onChoose={choose} />
    ) : (
      <Which fault={fault} onAgain={() => choose(null)} />
    );
  const key = `${about.tub_id ?? ""} ${about.batch_id ?? ""} ${about.formula_id ?? ""} ${about.family ?? ""}`;
  return <Of key={key} about={about} fault={fault} onFault={choose} />;
}

function aboutOf(words: URLSearchParams): About | null {
  const number = (name: string) => Number(words.get(name)) || undefined;
  const tub_id = number("tub");
  const batch_id = number("batch");
  const formula_id = number("formula");
  if (tub_id !== undefined) return { tub_id };
  if (batch_id !== undefined) return { batch_id };
  if (formula_id !== undefined) return { formula_id };
  const family = FAMILIES.find((one) => one === words.get("family"));
  return family === undefined ? null : { family };
}

/** Signs come first: whatever can be seen in any sauce. */
function AnySign({ onChoose }: { onChoose: (fault: string) => void }) {
  const here = useHere();
  const seen = useSeen(here.slug, {});
  if (seen.isError)
    return (
      <Failed title="What do you see?" sentence={seen.error.message} again={() => void seen.refetch()} />
    );
  if (!seen.data) return <Loading title="What do you see?" what="what can go wrong" />;
  return (
    <section aria-label="What do you see?">
      <h1>What do you see?</h1>
      <p className="mt-1 mb-3 text-soft">Which sauce it is comes next.</p>
      <SeenList seen={seen.data} chosen={null} onChoose={onChoose} onAgain={() => undefined} />
    </section>
  );
}

interface Props {
  about: About;
  fault: string | null;
  onFault: (fault: string | null) => void;
}

function Of({ about, fault, onFault }: Props) {
  const here = useHere();
  const seen = useSeen(here.slug, about);
  const [said, setSaid] = useState<{ fault: string | null; figures: Said }>({ fault, figures: {} });
  const [have, setHave] = useState<number | null>(null);
  const figures = said.fault === fault ? said.figures : {};
  const trouble = useTrouble(here.slug, about, fault, figures, have);
  const told = trouble.data;
  const outbox = useOutbox(here.slug, about.batch_id ?? 0);
  const touched = useRef<string | null>(null);
  const chosen = (next: string) => {
    touched.current = next;
    onFault(next);
    setSaid({ fault: next, figures: {} });
  };
  const stage = told?.sauce.closed === false && here.role !== "viewer" ? told.sauce.stage : null;
  // That something was seen is kept with its time and its stage, whatever is done about it.
  useEffect(() => {
    if (!about.batch_id || !stage || told?.fault !== touched.current) return;
    touched.current = null;
    outbox.add({ id: newId(), at: new Date().toISOString(), stage, kind: "wrong", note: told.name });
  }, [about.batch_id, stage, told, outbox]);
  if (seen.isError)
    return (
      <Failed title="What do you see?" sentence={seen.error.message} again={() => void seen.refetch()} />
    );
  if (!seen.data) return <Loading title="What do you see?" what="what can go wrong" />;
  return (
    <div className="grid items-start gap-x-10 gap-y-6 md:grid-cols-[17rem_minmax(0,1fr)] xl:grid-cols-[20rem_minmax(0,1fr)_19rem]">
      <section
        aria-label="What do you see?"
        className={fault === null ? "md:col-span-2 xl:col-span-3" : "md:row-span-2"}
      >
        <h1>What do you see?</h1>
        <Sauce told={told} about={about} fault={fault} />
        <SeenList seen={seen.data} chosen={fault} onChoose={chosen} onAgain={() => onFault(null)} />
      </section>
      {fault === null ? null : trouble.isError && !told ? (
        <section aria-label="Answer">
          <Failed sentence={trouble.error.message} again={() => void trouble.refetch()} />
        </section>
      ) : !told ? (
        <section aria-label="Answer">
          <Loading what="what helps" />
        </section>
      ) : (
        <>
          <section
            aria-label="Answer"
            aria-busy={trouble.isPlaceholderData}
            className={`min-w-0 ${trouble.isPlaceholderData ? "opacity-60" : ""}`}
          >
            {trouble.isError ? <Notice tone="wrong">{trouble.error.message}</Notice> : null}
            <Questions
              told={told}
              said={figures}
              onSay={(now) => setSaid({ fault, figures: now })}
              have={have}
              onHave={setHave}
            />
            <Answer key={fault} about={about} told={told} said={figures} have={have} />
          </section>
          <section
            aria-label="What happened, and next time"
            className="min-w-0 md:col-start-2 xl:col-start-auto"
          >
            <WhatHappened told={told} />
          </section>
        </>
      )}
    </div>
  );
}

/** The sauce it is about, with a way back to it. */
function Sauce({ told, about, fault }: { told: Told | undefined; about: About; fault: string | null }) {
  const { system } = useUnits();
  const named = useFamilyName();
  const sauce = told?.sauce;
  return (
    <Facts
      className="mt-1 mb-3 text-soft"
      of={[
        about.family ? (
          `any ${named(about.family)}`
        ) : (
          <Link key="back" to={pageOf(about)}>
            {sauce?.name ?? "back to it"}
          </Link>
        ),
        sauce && sauce.number !== null && `batch ${sauce.number}`,
        sauce && sauce.tub !== null && `tub ${sauce.tub}`,
        sauce && sauce.batch_id !== null && massText(sauce.left_g, system),
        <Link key="other" to={fault === null ? "../trouble" : `../trouble?seen=${fault}`}>
          another sauce
        </Link>,
      ]}
    />
  );
}

function pageOf({ tub_id, batch_id, formula_id }: About): string {
  if (tub_id) return "../shelf";
  return batch_id ? `../stove/${batch_id}` : `../book/${formula_id}`;
}
