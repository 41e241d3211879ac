import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from "react";

export interface Key {
  /** The key as `KeyboardEvent.key` names it, in lower case; "ctrl+z" for a chord. */
  press: string;
  does: string;
  run: () => void;
}

interface Registry {
  all: readonly Key[];
  add: (keys: readonly Key[]) => () => void;
}

const Context = createContext<Registry>({ all: [], add: () => () => {} });

/** One listener for the whole application; places register their keys while they are on show. */
export function KeysProvider({ children }: { children: ReactNode }) {
  const [layers, setLayers] = useState<readonly (readonly Key[])[]>([]);
  const all = useMemo(() => layers.flat(), [layers]);
  const latest = useRef(all);
  latest.current = all;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.altKey || event.metaKey || isTyping(event.target)) return;
      if (document.querySelector('[role="dialog"]')) return;
      const press = `${event.ctrlKey ? "ctrl+" : ""}${event.key.toLowerCase()}`;
      const onControl = event.target instanceof HTMLElement && event.target.closest("button, a, summary");
      if (press === " " && onControl) return;
      const found = latest.current.findLast((key) => key.press === press);
      if (!found) return;
      event.preventDefault();
      found.run();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  const value = useMemo<Registry>(
    () => ({
      all,
      add: (keys) => {
        setLayers((before) => [...before, keys]);
        return () => setLayers((before) => before.filter((layer) => layer !== keys));
      },
    }),
    [all],
  );
  return <Context value={value}>{children}</Context>;
}

function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  return target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
}

export const useAllKeys = () => useContext(Context).all;

/** Keys of a place; `run` may change from one drawing to the next without registering again. */
export function useKeys(keys: readonly Key[]): void {
  const { add } = useContext(Context);
  const latest = useRef(keys);
  latest.current = keys;
  const addRef = useRef(add);
  addRef.current = add;
  const signature = keys.map((key) => `${key.press} ${key.does}`).join("\n");
  // biome-ignore lint/correctness/useExhaustiveDependencies: the signature stands for the keys
  useEffect(() => {
    const stable = latest.current.map((key, i) => ({ ...key, run: () => latest.current[i]?.run() }));
    return addRef.current(stable);
  }, [signature]);
}
