import { renderToStaticMarkup } from "react-dom/server";
import { describe, expect, test } from "vitest";
import type { Live } from "../src/api/live";
import type { Photo } from "../src/api/photos";
import type { Batch, Stage } from "../src/api/queries";
import { LiveRule } from "../src/drawings/LiveRule";
import { Rule } from "../src/drawings/Rule";
import { coatText, Spoon } from "../src/drawings/Spoon";
import { Facts } from "../src/kit/Facts";
import { recorded, typedMarks } from "../src/places/stove/facts";
import { Signs } from "../src/places/stove/live/Signs";
import { minutes } from "../src/shared/ticking";

const SOURCES = import.meta.glob<string>(["../src/{app,kit,places}/**/*.tsx", "!**/kit/Facts.tsx"], {
  query: "?raw",
  import: "default",
  eager: true,
});
/** A string that begins like the middle of a sentence, where it depends on something. */
const GLUE = /(\? |: |&& )[`"'](, |; |: | · |\. | and | of )/;
const WINDOW = { rate_k_per_min: 6, thickens_c: 70.2, nappe_c: 80.1, heavy_c: 84.9, curdles_c: 86.3 };
const label = (markup: string) => /aria-label="([^"]*)"/.exec(markup)?.[1] ?? "";

function batch(marks: Partial<Batch["marks"][number]>[]): Batch {
  const bare = { id: "m", stage: "cook", kind: "moment", at: "2026-01-01T10:00:00Z", temperature_c: null };
  const stages = [
    { stage: "temper", typed: "landed" },
    { stage: "cook", typed: "lifted" },
    { stage: "chill", typed: "" },
  ];
  return {
    marks: marks.map((mark) => ({ ...bare, what: "", note: "", ...mark })),
    plan: { stages },
  } as Batch;
}

describe("facts", () => {
  test("stand beside each other, and what is not there takes no place", () => {
    const shown = renderToStaticMarkup(
      <Facts of={["batch 4", null, false, "", <b key="g">80 g</b>, "by the cook"]} />,
    );
    expect(shown.replace(/<[^>]*>/g, "")).toBe("batch 4 · 80 g · by the cook");
    expect(renderToStaticMarkup(<Facts of={[null]} />)).not.toContain("·");
  });

  test("are whole: no clause is put to a sentence on a condition", () => {
    const glued = Object.entries(SOURCES).flatMap(([file, text]) =>
      text.split("\n").flatMap((line) => (GLUE.test(line) ? [`${file}: ${line.trim()}`] : [])),
    );
    expect(glued).toEqual([]);
  });
});

describe("the rule", () => {
  test("says in words what it draws, in the reader's unit", () => {
    const said = (system: "metric" | "us") =>
      label(renderToStaticMarkup(<Rule window={WINDOW} boiling_c={100} stop_c={82} system={system} />));
    expect(said("metric")).toContain("80.1°");
    expect(said("us")).toContain("176°");
    expect(said("us")).not.toContain("80.1°");
  });

  test("of what never coats has no nappe", () => {
    const thin = { ...WINDOW, nappe_c: null, heavy_c: null };
    const said = label(
      renderToStaticMarkup(<Rule window={thin} boiling_c={100} stop_c={82} system="metric" />),
    );
    expect(said).not.toMatch(/nappe from \d/);
  });
});

describe("the rule at the stove", () => {
  const live = (probe_c: number | null, notch_c: number | null, boiled = false) =>
    label(
      renderToStaticMarkup(
        <LiveRule
          window={WINDOW}
          boiling_c={100.2}
          boiled={boiled}
          probe_c={probe_c}
          soon_c={null}
          notch_c={notch_c}
          notch="lift here"
          system="metric"
        />,
      ),
    );

  test("tells the probe and the notch, or that there is no reading", () => {
    expect(live(76.4, 80.7)).toContain("the probe reads 76.4°");
    expect(live(76.4, 80.7)).toContain("lift here 80.7°");
    expect(live(null, null)).toContain("no reading");
    expect(live(null, null)).not.toContain("lift here");
  });

  test("shows the boil only to what is boiled", () => {
    expect(live(95, null, true)).toContain("boils 100.2°");
    expect(live(80, null)).not.toContain("boils");
  });
});

describe("the spoon", () => {
  test("has a thickness while it is a film, and none when it stands", () => {
    expect(coatText(0.43)).toBe("coat 0.43 mm");
    expect(coatText(2.4)).toBe("stands by itself");
    const film = { film_mm: 0.43, line: "closes", word: "thin coat" } as const;
    expect(label(renderToStaticMarkup(<Spoon film={film} />))).toBe(
      "Spoon: thin coat, coat 0.43 mm, the line closes",
    );
  });
});

describe("the signs", () => {
  const plan = {
    signs: [
      { sign: "foam", text: "foam thins" },
      { sign: "steam", text: "steam at {75 C}" },
      { sign: "trail", text: "trail stays" },
    ],
  } as Stage;
  const shown = (marks: Partial<Batch["marks"][number]>[], waiting: readonly string[] = []) =>
    renderToStaticMarkup(
      <Signs batch={batch(marks)} plan={plan} waiting={waiting} mayMark say={() => undefined} />,
    );
  const pressed = (markup: string) =>
    [...markup.matchAll(/aria-pressed="(true|false)"/g)].map((found) => found[1] === "true");

  test("are ticked by marks, and by marks that still wait to be sent", () => {
    expect(pressed(shown([{ kind: "sign", what: "foam" }], ["trail"]))).toEqual([true, false, true]);
  });

  test("point out the first that is not seen yet, in the reader's unit", () => {
    const bold = /font-bold[^>]*>.*?<span class="">([^<]*)</.exec(shown([{ kind: "sign", what: "foam" }]));
    expect(bold?.[1]).toBe("steam at 75°");
  });
});

describe("the record of a batch", () => {
  test("each stage rides on the rule at the temperature it was last left at", () => {
    const marks = typedMarks(
      batch([
        { stage: "temper", temperature_c: 70 },
        { stage: "temper", temperature_c: 72.5 },
        { stage: "cook", temperature_c: 80.5 },
        { stage: "chill", temperature_c: 20 },
      ]),
    );
    expect(marks.map((mark) => [mark.label, mark.at_c])).toEqual([
      ["landed", 72.5],
      ["lifted", 80.5],
    ]);
  });

  test("readings and marks stand on one clock, which a rehearsal runs faster", () => {
    const live = {
      at: "2026-01-01T10:02:00Z",
      pace: 2,
      way: "coats",
      past: { ago_s: [-200, -100, 0], c: [60, 70, 80] },
    } as Live;
    const shown = recorded(
      live,
      batch([
        { kind: "off-heat", at: "2026-01-01T10:01:00Z" },
        { kind: "moment", at: "2026-01-01T10:01:30Z" },
      ]),
      [{ at: "2026-01-01T10:01:50Z" }] as Photo[],
    );
    expect(shown.photos).toEqual([180]);
    expect(shown.read).toEqual([
      [0, 60],
      [100, 70],
      [200, 80],
    ]);
    // A minute before, at twice the pace: 120 s before the end of the curve.
    expect(shown.moments).toEqual([{ kind: "off-heat", at_s: 80, shown: "off the heat" }]);
  });

  test("seconds are told as a clock tells them", () => {
    expect([minutes(0), minutes(42.4), minutes(61)]).toEqual(["0:00", "0:42", "1:01"]);
  });
});
