import { useState } from "react";
import { useLocation, useNavigate, useParams } from "react-router";
import { Button } from "../kit/Button";
import { useAllKeys } from "../kit/keys";
import { GuideText } from "../places/guide/Guide";
import { PAGES, pageFor } from "../places/guide/pages";

/** What belongs to the screen one is at: its page of the guide, and its keys. */
export function Help({ onClose }: { onClose: () => void }) {
  const { pathname } = useLocation();
  const { kitchen } = useParams();
  const navigate = useNavigate();
  const [key, setKey] = useState(() => pageFor(pathname));
  const page = PAGES.find((one) => one.key === key);
  return (
    <>
      <h3 className="mb-2">Keys here</h3>
      <KeyList />
      {page ? (
        <>
          <h3 className="mt-6 mb-2 border-t border-hair pt-4">{page.title}</h3>
          <GuideText page={page} onPage={setKey} />
        </>
      ) : null}
      <div className="mt-5 flex flex-wrap gap-3">
        <Button
          look="iron"
          onClick={() => {
            onClose();
            navigate(`/k/${kitchen}/guide/${key}`);
          }}
        >
          The whole guide
        </Button>
        <Button onClick={onClose}>Close</Button>
      </div>
    </>
  );
}

function KeyList() {
  const keys = useAllKeys();
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1 sm:grid-cols-[auto_1fr_auto_1fr]">
      {keys.map((key) => (
        <div key={`${key.press} ${key.does}`} className="contents">
          <dt>
            <kbd className="border border-line px-2 py-0.5">{key.press === " " ? "space" : key.press}</kbd>
          </dt>
          <dd>{key.does}</dd>
        </div>
      ))}
    </dl>
  );
}
