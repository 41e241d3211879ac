import { useIsFetching, useIsMutating } from "@tanstack/react-query";
import { useEffect, useState } from "react";

const SOON_MS = 700;

/** Something is on its way for longer than one notices: a line at the top says so, whatever it is. */
export function Busy() {
  const asking = useIsFetching({ predicate: (query) => query.state.data === undefined }) + useIsMutating();
  const [shown, setShown] = useState(false);
  const busy = asking > 0;
  useEffect(() => {
    if (!busy) {
      setShown(false);
      return;
    }
    const timer = setTimeout(() => setShown(true), SOON_MS);
    return () => clearTimeout(timer);
  }, [busy]);
  if (!shown) return null;
  return (
    <div
      role="status"
      className="busy fixed inset-x-0 top-0 z-50 h-1 overflow-hidden bg-yolk-pale print:hidden"
    >
      <span className="sr-only">Working on it</span>
    </div>
  );
}
