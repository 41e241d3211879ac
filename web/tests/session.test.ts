import { QueryClient } from "@tanstack/react-query";
import { beforeEach, expect, test, vi } from "vitest";
import { Problem } from "../src/api/problem";
import { watchSession } from "../src/api/queries";

const deleted = vi.fn(async () => true);
vi.stubGlobal("caches", { delete: deleted });

/** A browser in which somebody is logged in and has looked at a batch. */
async function used(later: { username: string } | null = null) {
  const cache = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  watchSession(cache);
  const answers = [{ person: { username: "trainee" } }, { person: later }];
  const queryFn = async () => answers.shift() ?? { person: later };
  await cache.fetchQuery({ queryKey: ["session"], queryFn });
  cache.setQueryData(["batch", "here", 3], { id: 3 });
  return cache;
}

const gone = new Problem(401, "Log in first.");

beforeEach(() => deleted.mockClear());

test("an answer that says the session is over leaves nothing of its person", async () => {
  const cache = await used();
  await cache.fetchQuery({ queryKey: ["log", "here"], queryFn: () => Promise.reject(gone) }).catch(() => {});
  expect(cache.getQueryData(["session"])).toEqual({ person: null });
  expect(cache.getQueryData(["batch", "here", 3])).toBeUndefined();
  expect(deleted).toHaveBeenCalledWith("kept");
});

test.each([
  ["over", null, undefined],
  ["going on, after a wrong PIN", { username: "trainee" }, { id: 3 }],
])(
  "after such an answer to something that was written, the session is asked: %s",
  async (_, person, left) => {
    const cache = await used(person);
    const writing = cache
      .getMutationCache()
      .build(cache, { mutationFn: () => Promise.reject(gone), retry: false });
    await writing.execute(undefined).catch(() => {});
    await vi.waitFor(() => expect(cache.getQueryState(["session"])?.dataUpdateCount).toBe(2));
    expect(cache.getQueryData(["session"])).toEqual({ person });
    expect(cache.getQueryData(["batch", "here", 3])).toEqual(left);
  },
);

test("and somebody else who logged in on another page of the same device", async () => {
  const cache = await used();
  await cache.fetchQuery({
    queryKey: ["session"],
    queryFn: async () => ({ person: { username: "guest" } }),
    staleTime: 0,
  });
  expect(cache.getQueryData(["batch", "here", 3])).toBeUndefined();
});

test("while they are the same, and for any other refusal, everything stays", async () => {
  const cache = await used();
  const refusal = new Problem(403, "Only cooks of this kitchen can do this; you can look.");
  await cache
    .fetchQuery({ queryKey: ["log", "here"], queryFn: () => Promise.reject(refusal) })
    .catch(() => {});
  await cache.fetchQuery({
    queryKey: ["session"],
    queryFn: async () => ({ person: { username: "trainee" } }),
    staleTime: 0,
  });
  expect(cache.getQueryData(["batch", "here", 3])).toEqual({ id: 3 });
  expect(deleted).not.toHaveBeenCalled();
});
