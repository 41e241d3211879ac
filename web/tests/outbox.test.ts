import { beforeEach, describe, expect, test, vi } from "vitest";
import { Outbox, unsent } from "../src/api/outbox";
import { Problem } from "../src/api/problem";
import type { Batch, NewMark } from "../src/api/queries";

const store = new Map<string, string>();
const KEY = "old-spoon:marks:here:1";
const batch = { id: 1 } as Batch;

function mark(id: string): NewMark {
  return { id, stage: "cook", kind: "moment", at: "2026-01-01T12:00:00Z", note: "" };
}

beforeEach(() => {
  vi.useFakeTimers();
  store.clear();
  globalThis.localStorage = {
    getItem: (key: string) => store.get(key) ?? null,
    setItem: (key: string, value: string) => void store.set(key, value),
    removeItem: (key: string) => void store.delete(key),
    key: (place: number) => [...store.keys()][place] ?? null,
    get length() {
      return store.size;
    },
  } as Storage;
});

describe("the outbox of marks", () => {
  test("sends what was marked in one go together, in order, and forgets what has arrived", async () => {
    const sent: string[][] = [];
    const arrived = vi.fn();
    const outbox = new Outbox(
      KEY,
      async (marks) => {
        sent.push(marks.map((one) => one.id));
        return batch;
      },
      arrived,
    );
    outbox.add(mark("a"));
    outbox.add(mark("b"));
    await vi.waitFor(() => expect(outbox.read().waiting).toEqual([]));
    outbox.add(mark("c"));
    await vi.waitFor(() => expect(sent).toEqual([["a", "b"], ["c"]]));
    await vi.waitFor(() => expect(arrived).toHaveBeenCalledTimes(2));
    expect(store.size).toBe(0);
  });

  test("keeps a mark while the network is away, and sends it when it is back", async () => {
    let away = true;
    const outbox = new Outbox(
      KEY,
      async () => {
        if (away) throw new Problem(0, "no connection");
        return batch;
      },
      () => {},
    );
    outbox.add(mark("a"));
    await vi.waitFor(() => expect(outbox.read().away).toBe(true));
    expect([...store.keys()]).toEqual([`${KEY}:a`]);
    away = false;
    await vi.advanceTimersByTimeAsync(5000);
    expect(outbox.read()).toMatchObject({ waiting: [], away: false });
  });

  test.each([401, 500, 503])("a %s is not the mark's fault: it stays", async (status) => {
    const outbox = new Outbox(
      KEY,
      async () => {
        throw new Problem(status, "later");
      },
      () => {},
    );
    outbox.add(mark("a"));
    await vi.waitFor(() => expect(outbox.read().away).toBe(true));
    expect(outbox.read().waiting).toHaveLength(1);
  });

  test("two tabs on one batch lose none of each other's marks, and a third sends them in order", async () => {
    const nothing = async () => {
      throw new Problem(0, "no connection");
    };
    const [one, other] = [new Outbox(KEY, nothing, () => {}), new Outbox(KEY, nothing, () => {})];
    one.add(mark("a"));
    other.add(mark("b"));
    one.add(mark("c"));
    await vi.waitFor(() => expect(one.read().away && other.read().away).toBe(true));
    one.stop();
    other.stop();
    const sent: string[] = [];
    const third = new Outbox(
      KEY,
      async (marks) => {
        sent.push(...marks.map((each) => each.id));
        return batch;
      },
      () => {},
    );
    await third.flush();
    expect(sent).toEqual(["a", "b", "c"]);
    expect(store.size).toBe(0);
  });

  test("a refused mark is handed back with its reason, and the next goes on", async () => {
    const outbox = new Outbox(
      KEY,
      async (marks) => {
        if (marks.some((one) => one.id === "a")) throw new Problem(422, "300 °C cannot be a sauce");
        return batch;
      },
      () => {},
    );
    outbox.add(mark("a"));
    outbox.add(mark("b"));
    await vi.waitFor(() => expect(outbox.read().waiting).toEqual([]));
    expect(outbox.read().refused?.mark.id).toBe("a");
    outbox.forgetRefusal();
    expect(outbox.read().refused).toBeNull();
  });

  test("what was kept before the page was closed goes out with the next", async () => {
    store.set(KEY, JSON.stringify([mark("from before")]));
    const sent: string[] = [];
    const outbox = new Outbox(
      KEY,
      async (marks) => {
        sent.push(...marks.map((one) => one.id));
        return batch;
      },
      () => {},
    );
    await outbox.flush();
    expect(sent).toEqual(["from before"]);
  });

  test("a store that is broken or full loses nothing that is in hand", async () => {
    store.set(KEY, "{ not a list");
    globalThis.localStorage.setItem = () => {
      throw new Error("full");
    };
    const sent: string[] = [];
    const outbox = new Outbox(
      KEY,
      async (marks) => {
        sent.push(...marks.map((one) => one.id));
        return batch;
      },
      () => {},
    );
    outbox.add(mark("a"));
    await vi.waitFor(() => expect(sent).toEqual(["a"]));
  });

  test.each([
    ["logged out", new Problem(401, "Log in to go on.")],
    ["a viewer now", new Problem(403, "Only cooks of this kitchen can do this.")],
    ["another's session", new Problem(409, "That mark is another's.", "someone-else")],
  ])("keeps what its person may not send: %s", async (_, problem) => {
    const outbox = new Outbox(
      KEY,
      async () => {
        throw problem;
      },
      () => {},
    );
    outbox.add(mark("a"));
    await vi.waitFor(() => expect(outbox.read().barred).toBe(problem.message));
    expect(outbox.read()).toMatchObject({ away: true, refused: null });
    expect([...store.keys()]).toEqual([`${KEY}:a`]);
    outbox.stop();
  });

  test("tells each person of their own marks in a kitchen, and of nobody else's", () => {
    store.set("old-spoon:marks:here:sous%3Achef:12", JSON.stringify([mark("a"), mark("b")]));
    store.set("old-spoon:marks:here:trainee:12:c", JSON.stringify({ place: 1, mark: mark("c") }));
    store.set("old-spoon:marks:there:trainee:7", JSON.stringify([mark("d")]));
    expect(unsent("here", "sous:chef")).toEqual([{ batch: 12, marks: 2 }]);
    expect(unsent("here", "trainee")).toEqual([{ batch: 12, marks: 1 }]);
    expect(unsent("here", "guest")).toEqual([]);
  });
});
