import { describe, expect, it } from "vitest";
import { Player } from "./player";
import type { Did, Picture } from "./practice";
import { Problem } from "./problem";

const picture = (at_s: number): Picture => ({
  at_s,
  phase: "heat",
  can: ["stir"],
  flame: 4,
  tells: [],
  said: "",
  so_far: [],
  probe_c: null,
  pan: null,
  bowl: null,
  tub: null,
  spoon: null,
});

interface Sent {
  after: number;
  acts: Did[];
  until: number;
}

/** A kitchen that answers as it is unwrap, and a clock that only we move. */
function world() {
  const sent: Sent[] = [];
  const at = { ms: 0 };
  let fails: Problem | null = null;
  let wait: Promise<void> = Promise.resolve();
  const player = new Player(0, 0, picture(0), false, {
    now: () => at.ms,
    send: async (body) => {
      sent.push(structuredClone(body));
      await wait;
      if (fails) throw fails;
      return { after: body.after + 1, picture: picture(body.until), ended: false };
    },
  });
  return {
    player,
    sent,
    pass: (ms: number) => {
      at.ms += ms;
    },
    fail: (problem: Problem | null) => {
      fails = problem;
    },
    hold: () => {
      let release = () => {};
      wait = new Promise((done) => {
        release = () => {
          wait = Promise.resolve();
          done();
        };
      });
      return () => release();
    },
  };
}

describe("the clock and the messages of an attempt", () => {
  it("sends what was done, once, in order, with its times", async () => {
    const { player, sent, pass } = world();
    player.start();
    pass(50);
    player.act("stir", { x: 0.1, y: 0 });
    pass(50);
    player.act("dip");
    pass(100);
    await player.tick();
    pass(200);
    await player.tick();
    expect(sent).toEqual([
      {
        after: 0,
        acts: [
          { at: 0.05, do: "stir", x: 0.1, y: 0 },
          { at: 0.1, do: "dip" },
        ],
        until: 0.2,
      },
      { after: 1, acts: [], until: 0.4 },
    ]);
    expect(player.snapshot().picture.at_s).toBe(0.4);
  });

  it("sends nothing, and lets no time pass, before it is begun or while it stands", async () => {
    const { player, sent, pass } = world();
    player.act("dip");
    pass(1000);
    await player.tick();
    expect(sent).toEqual([]);
    expect(player.time()).toBe(0);
    player.start();
    pass(300);
    player.pause();
    pass(5000);
    expect(player.time()).toBeCloseTo(0.3);
  });

  it("sends the very same message again until it is answered; time stands meanwhile", async () => {
    const { player, sent, pass, fail } = world();
    player.start();
    pass(200);
    player.act("off");
    fail(new Problem(0, "gone"));
    await player.tick();
    expect(player.snapshot().trouble).toMatch(/does not answer/);
    const stood = player.time();
    pass(60_000);
    expect(player.time()).toBe(stood);
    await player.tick();
    fail(null);
    await player.tick();
    expect(sent[1]).toEqual(sent[0]);
    expect(sent[2]).toEqual(sent[0]);
    expect(player.snapshot().trouble).toBeNull();
    await player.tick();
    expect(sent[3]?.after).toBe(1);
  });

  it("never has two messages on their way, and keeps what is done meanwhile", async () => {
    const { player, sent, pass, hold } = world();
    player.start();
    pass(200);
    const release = hold();
    const first = player.tick();
    player.act("dip");
    await player.tick();
    expect(sent.length).toBe(1);
    release();
    await first;
    pass(200);
    await player.tick();
    expect(sent[1]?.acts.map((act) => act.do)).toEqual(["dip"]);
  });

  it("stops where somebody else went on with it", async () => {
    const { player, pass, fail } = world();
    player.start();
    pass(200);
    fail(new Problem(409, "It went on somewhere else.", "out-of-step"));
    await player.tick();
    expect(player.snapshot()).toMatchObject({ running: false, outOfStep: true });
  });

  it("does not send for ever what cannot be", async () => {
    const { player, sent, pass, fail } = world();
    player.start();
    pass(200);
    player.act("sing");
    fail(new Problem(422, "Nothing one can do here."));
    await player.tick();
    fail(null);
    pass(200);
    await player.tick();
    expect(sent[1]?.acts).toEqual([]);
    expect(player.snapshot().trouble).toBeNull();
  });
});
