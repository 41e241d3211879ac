import { describe, expect, it, vi } from "vitest";
import { patiently } from "../src/api/client";

const busy = () =>
  new Response(JSON.stringify({ type: "busy", detail: "Ask again." }), {
    status: 503,
    headers: { "Retry-After": "1" },
  });

async function asked(answers: (() => Response)[]): Promise<[Response, number]> {
  vi.useFakeTimers();
  const ask = vi.fn(async () => (answers.shift() ?? busy)());
  const found = patiently(new Request("http://kitchen/api", { method: "POST", body: "{}" }), ask);
  await vi.runAllTimersAsync();
  vi.useRealTimers();
  return [await found, ask.mock.calls.length];
}

describe("a question to a busy server", () => {
  it("is asked again until it is answered", async () => {
    const [answer, calls] = await asked([busy, busy, () => new Response("{}")]);
    expect([answer.status, calls]).toEqual([200, 3]);
  });

  it("is given up after a while, with what the server says", async () => {
    const [answer, calls] = await asked([]);
    expect([answer.status, calls]).toEqual([503, 4]);
  });

  it("is not repeated when it failed for another reason, as what it writes may be written", async () => {
    const gone = () =>
      new Response(JSON.stringify({ type: "about:blank", detail: "Gone." }), { status: 503 });
    const [answer, calls] = await asked([gone]);
    expect([answer.status, calls]).toEqual([503, 1]);
  });
});
