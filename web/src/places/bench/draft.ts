import type { Draft, LineDraft } from "../../api/queries";

/** A draft with its past and future, so that every change can be taken back. */
export interface History {
  past: readonly Draft[];
  now: Draft;
  future: readonly Draft[];
  /** What the last change was: changes of one field in a row are taken back together. */
  last: string;
  /** Goes up with every change but the turning of handles, so that a late answer to a turn is known as late. */
  epoch: number;
}

export const TURNED = "turn";

export type Change =
  | { do: "line"; index: number; part: keyof LineDraft; value: string | number | null }
  | { do: "add"; line: LineDraft }
  | { do: "remove"; index: number }
  | { do: "purpose"; part: "destinations"; value: NonNullable<Draft["destinations"]> }
  | { do: "purpose"; part: "other_work"; value: NonNullable<Draft["other_work"]> }
  | { do: "purpose"; part: "card"; value: NonNullable<Draft["card"]> }
  | { do: "head"; part: "name" | "family" | "eggs" | "measures"; value: string }
  | { do: "replace"; draft: Draft; as?: string }
  | { do: "undo" }
  | { do: "redo" };

const DEPTH = 200;

export const begin = (draft: Draft): History => ({
  past: [],
  now: draft,
  future: [],
  last: "",
  epoch: 0,
});

export function change(history: History, step: Change): History {
  if (step.do === "undo") {
    const before = history.past.at(-1);
    if (!before) return history;
    return {
      past: history.past.slice(0, -1),
      now: before,
      future: [history.now, ...history.future],
      last: "",
      epoch: history.epoch + 1,
    };
  }
  if (step.do === "redo") {
    const [after, ...rest] = history.future;
    if (!after) return history;
    return {
      past: [...history.past, history.now],
      now: after,
      future: rest,
      last: "",
      epoch: history.epoch + 1,
    };
  }
  const now = applied(history.now, step);
  const name =
    "index" in step && step.do === "line"
      ? `${step.index} ${step.part}`
      : step.do === "head" || step.do === "purpose"
        ? step.part
        : step.do === "replace"
          ? (step.as ?? "")
          : "";
  const together = name !== "" && name === history.last;
  const past = together ? history.past : [...history.past, history.now].slice(-DEPTH);
  return { past, now, future: [], last: name, epoch: history.epoch + (name === TURNED ? 0 : 1) };
}

function applied(draft: Draft, step: Exclude<Change, { do: "undo" | "redo" }>): Draft {
  switch (step.do) {
    case "line":
      return {
        ...draft,
        lines: draft.lines.map((line, i) =>
          i === step.index ? ({ ...line, [step.part]: step.value } as LineDraft) : line,
        ),
      };
    case "add":
      return { ...draft, lines: [...draft.lines, step.line] };
    case "remove":
      return { ...draft, lines: draft.lines.filter((_, i) => i !== step.index) };
    case "purpose":
    case "head":
      return { ...draft, [step.part]: step.value };
    case "replace":
      return step.draft;
  }
}

/** Drafts not saved yet, kept on this device so that a reload or a lost session loses nothing. */
export const kept = {
  /** A draft is its writer's: the next one at the same device begins with what is in the book. */
  key: (kitchen: string, formula: string, person: string) =>
    `old-spoon:draft:${kitchen}:${encodeURIComponent(person)}:${formula}`,
  read(key: string): { base: number; draft: Draft } | null {
    try {
      const found: unknown = JSON.parse(localStorage.getItem(key) ?? "null");
      return isKept(found) ? found : null;
    } catch {
      return null;
    }
  },
  write(key: string, base: number, draft: Draft): void {
    try {
      localStorage.setItem(key, JSON.stringify({ base, draft }));
    } catch {
      // The draft then lives only as long as the page.
    }
  },
  forget(key: string): void {
    localStorage.removeItem(key);
  },
};

function isKept(found: unknown): found is { base: number; draft: Draft } {
  const one = found as { base?: unknown; draft?: { lines?: unknown } } | null;
  return typeof one?.base === "number" && Array.isArray(one.draft?.lines);
}

export const same = (a: Draft, b: Draft): boolean => canonical(a) === canonical(b);

function canonical(draft: Draft): string {
  return JSON.stringify([
    draft.name,
    draft.family,
    draft.eggs,
    draft.measures,
    draft.lines.map((l) => [l.ingredient, l.amount, l.note ?? "", l.when ?? "", l.minutes ?? null]),
    (draft.destinations ?? []).map((one) => [one.name, one.count ?? 1, one.amount]),
    (draft.other_work ?? []).map((one) => [one.name, one.minutes, one.hands ?? true, one.needs ?? ""]),
  ]);
}

/** How a line differs from the version it began as; `was` is null where that had no such line. */
export interface LineChange {
  was: LineDraft | null;
  parts: ("amount" | "when" | "note")[];
}

const nameOf = (line: LineDraft) =>
  typeof line.ingredient === "string" ? line.ingredient : line.ingredient.name;

/**
 * What changed since a version: by line of the draft, and the lines that are gone.
 *
 * Lines are the same where they name the same thing; of two that do, the first is the first.
 */
export function since(saved: Draft, draft: Draft): { lines: (LineChange | null)[]; gone: LineDraft[] } {
  const left = [...saved.lines];
  const lines = draft.lines.map((line) => {
    const at = left.findIndex((one) => nameOf(one) === nameOf(line));
    const [was] = at === -1 ? [] : left.splice(at, 1);
    if (!was) return { was: null, parts: [] };
    const parts = (["amount", "when", "note"] as const).filter(
      (part) => (was[part] ?? "") !== (line[part] ?? ""),
    );
    return parts.length ? { was, parts } : null;
  });
  return { lines, gone: left };
}

export const FIRST_DRAFT: Draft = {
  name: "New sauce",
  family: "anglaise",
  eggs: "EU-M",
  measures: "metric",
  lines: [
    { ingredient: "whole-milk", amount: "500 ml", note: "" },
    { ingredient: "egg-yolk", amount: "5", note: "" },
    { ingredient: "white-sugar", amount: "80 g", note: "" },
  ],
};
