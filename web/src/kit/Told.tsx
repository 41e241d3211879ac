import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from "react";
import { Button } from "./Button";
import { Toast } from "./Toast";

interface What {
  say: string;
  /** Takes it back; what it throws is shown in its stead. */
  back: () => Promise<unknown>;
}

const Context = createContext<{ tell: (what: What) => void }>({ tell: () => {} });

/** What was just done is told for a minute, wherever one goes meanwhile, and can be taken back. */
export function ToldProvider({ children }: { children: ReactNode }) {
  const [what, setWhat] = useState<(What & { busy: boolean }) | null>(null);
  const gone = useCallback(() => setWhat(null), []);
  const value = useMemo(() => ({ tell: (next: What) => setWhat({ ...next, busy: false }) }), []);
  const undo = () => {
    if (!what) return;
    setWhat({ ...what, busy: true });
    what.back().then(
      () => setWhat(null),
      (error: Error) => setWhat({ ...what, say: error.message, busy: false }),
    );
  };
  return (
    <Context value={value}>
      {children}
      {what ? (
        <Toast key={what.say} say={what.say} onGone={gone}>
          <Button disabled={what.busy} onClick={undo}>
            Undo
          </Button>
        </Toast>
      ) : null}
    </Context>
  );
}

export const useTold = () => useContext(Context);
