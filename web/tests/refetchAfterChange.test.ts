import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, test } from "vitest";
import { refetchAfterChange } from "../src/api/refetchAfterChange";

/** A server that answers only when told to, with what was true when it was asked. */
function server() {
  const waiting: (() => void)[] = [];
  const known = { lines: 1, asked: 0 };
  const ask = () => {
    known.asked += 1;
    const then = known.lines;
    return new Promise<number>((answered) => waiting.push(() => answered(then)));
  };
  const answer = () => waiting.shift()?.();
  return { known, ask, answer };
}

const settled = () => new Promise((done) => setTimeout(done, 0));

test("a first fetch answered before a change is fetched again after it", async () => {
  const { known, ask, answer } = server();
  const cache = new QueryClient();
  const screen = new QueryObserver(cache, { queryKey: ["book", "here"], queryFn: ask });
  const close = screen.subscribe(() => undefined);
  known.lines = 2;
  const done = refetchAfterChange(cache, ["book"]);
  answer();
  await settled();
  answer();
  await done;
  expect(screen.getCurrentResult().data).toBe(2);
  expect(known.asked).toBe(2);
  close();
});

test("what lies under another key is left alone", async () => {
  const { known, ask, answer } = server();
  const cache = new QueryClient();
  const close = new QueryObserver(cache, { queryKey: ["log"], queryFn: ask }).subscribe(() => undefined);
  answer();
  await settled();
  await refetchAfterChange(cache, ["book"]);
  expect(known.asked).toBe(1);
  close();
});
