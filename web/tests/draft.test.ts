import { beforeEach, describe, expect, test } from "vitest";
import type { Draft } from "../src/api/queries";
import {
  begin,
  change,
  FIRST_DRAFT,
  type History,
  kept,
  same,
  since,
  TURNED,
} from "../src/places/bench/draft";

const amount = (history: History, index = 0) => history.now.lines[index]?.amount;
const typing = (history: History, ...values: string[]) =>
  values.reduce((h, value) => change(h, { do: "line", index: 0, part: "amount", value }), history);
const named = (name: string): Draft => ({ ...FIRST_DRAFT, name });

describe("undo", () => {
  test("typing in one field is taken back in one go", () => {
    const typed = typing(begin(FIRST_DRAFT), "5", "50", "500 g");
    expect(amount(typed)).toBe("500 g");
    expect(amount(change(typed, { do: "undo" }))).toBe("500 ml");
  });

  test("two fields are taken back one after the other", () => {
    let history = typing(begin(FIRST_DRAFT), "1 l");
    history = change(history, { do: "line", index: 1, part: "amount", value: "9" });
    history = change(history, { do: "undo" });
    expect([amount(history, 0), amount(history, 1)]).toEqual(["1 l", "5"]);
    history = change(history, { do: "undo" });
    expect(amount(history, 0)).toBe("500 ml");
  });

  test("redo brings back what undo took, until something else is done", () => {
    let history = change(typing(begin(FIRST_DRAFT), "1 l"), { do: "undo" });
    expect(amount(change(history, { do: "redo" }))).toBe("1 l");
    history = typing(history, "2 l");
    expect(history.future).toEqual([]);
    expect(change(history, { do: "redo" })).toBe(history);
  });

  test("with nothing to take back nothing happens", () => {
    const history = begin(FIRST_DRAFT);
    expect(change(history, { do: "undo" })).toBe(history);
  });

  test("lines are added and taken out again", () => {
    const line = { ingredient: "salt", amount: "1 pinch", note: "", when: "in the pan" as const };
    let history = change(begin(FIRST_DRAFT), { do: "add", line });
    expect(history.now.lines).toHaveLength(4);
    history = change(history, { do: "remove", index: 0 });
    expect(history.now.lines.map((one) => one.ingredient)).toEqual(["egg-yolk", "white-sugar", "salt"]);
    history = change(change(history, { do: "undo" }), { do: "undo" });
    expect(same(history.now, FIRST_DRAFT)).toBe(true);
  });
});

describe("turning handles", () => {
  test("a whole drag is one step back, and does not raise the epoch", () => {
    const start = begin(FIRST_DRAFT);
    const turned = ["a", "b", "c"].reduce(
      (h, name) => change(h, { do: "replace", draft: named(name), as: TURNED }),
      start,
    );
    expect(turned.epoch).toBe(start.epoch);
    expect(change(turned, { do: "undo" }).now).toBe(FIRST_DRAFT);
  });

  test("anything else raises it, so that a late turn is known as late", () => {
    const turned = change(begin(FIRST_DRAFT), { do: "replace", draft: named("a"), as: TURNED });
    const undone = change(turned, { do: "undo" });
    expect(undone.epoch).toBeGreaterThan(turned.epoch);
    expect(typing(turned, "1 l").epoch).toBeGreaterThan(turned.epoch);
  });
});

describe("sameness", () => {
  test("what is left out and what is empty are the same", () => {
    const bare = { ...FIRST_DRAFT, lines: [{ ingredient: "salt", amount: "1 g" }] } as Draft;
    const full = {
      ...FIRST_DRAFT,
      lines: [{ ingredient: "salt", amount: "1 g", note: "", when: null, minutes: null }],
      destinations: [],
      other_work: [],
    } as Draft;
    expect(same(bare, full)).toBe(true);
    expect(same(bare, { ...bare, destinations: [{ name: "plates", count: 2, amount: "60 g" }] })).toBe(false);
    expect(same(bare, { ...bare, name: "Other" })).toBe(false);
  });
});

describe("drafts kept on the device", () => {
  const store = new Map<string, string>();
  beforeEach(() => {
    store.clear();
    globalThis.localStorage = {
      getItem: (key: string) => store.get(key) ?? null,
      setItem: (key: string, value: string) => void store.set(key, value),
      removeItem: (key: string) => void store.delete(key),
    } as Storage;
  });

  test("come back as they were left", () => {
    const key = kept.key("here", "3", "trainee");
    kept.write(key, 2, named("half done"));
    expect(kept.read(key)).toEqual({ base: 2, draft: named("half done") });
    kept.forget(key);
    expect(kept.read(key)).toBeNull();
  });

  test.each(["nonsense", "{}", '{"base": "x", "draft": {}}', "null"])("%s is not a draft", (held) => {
    expect(kept.read(kept.key("here", "3", "pastry"))).toBeNull();
    store.set(kept.key("here", "3", "trainee"), held);
    expect(kept.read(kept.key("here", "3", "trainee"))).toBeNull();
  });
});

describe("what changed since the saved version", () => {
  test("a line is marked by its part, a new one as new, one that is gone is told", () => {
    const [milk, yolk, sugar] = FIRST_DRAFT.lines;
    if (!milk || !yolk || !sugar) throw new Error("the first draft has three lines");
    const draft = {
      ...FIRST_DRAFT,
      lines: [{ ...sugar, amount: "90 g" }, milk, { ingredient: "salt", amount: "1 pinch", note: "" }],
    };
    const { lines, gone } = since(FIRST_DRAFT, draft);
    expect(lines).toEqual([{ was: sugar, parts: ["amount"] }, null, { was: null, parts: [] }]);
    expect(gone).toEqual([yolk]);
  });

  test("of two lines of one thing the first is the first", () => {
    const line = (amount: string) => ({ ingredient: "white-sugar", amount, note: "" });
    const saved = { ...FIRST_DRAFT, lines: [line("70 g"), line("48 g")] };
    const draft = { ...FIRST_DRAFT, lines: [line("70 g"), line("50 g")] };
    expect(since(saved, draft).lines).toEqual([null, { was: line("48 g"), parts: ["amount"] }]);
  });

  test("nothing changed marks nothing", () =>
    expect(since(FIRST_DRAFT, FIRST_DRAFT)).toEqual({ lines: [null, null, null], gone: [] }));
});
