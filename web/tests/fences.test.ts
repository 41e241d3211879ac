/// <reference types="vite/client" />
import { expect, test } from "vitest";
import biome from "../biome.json";

const sources = import.meta.glob<string>("../src/**/*.{ts,tsx}", {
  query: "?raw",
  import: "default",
  eager: true,
});
const bare = (path: string) => path.replace(/\.tsx?$/, "");

/** "../src/kit/Rule" and "../when" as "../src/when". */
function joined(from: string, to: string): string {
  const steps = from.split("/").slice(0, -1);
  for (const step of to.split("/")) {
    if (step === "..") steps.pop();
    else if (step !== ".") steps.push(step);
  }
  return steps.join("/");
}

/** What each file imports of ours, types as well as values. */
const imports = new Map(
  Object.entries(sources).map(([path, text]) => {
    const found = text.matchAll(/(?:from|import\() ?"(\.[^"]+)"/g);
    return [bare(path), [...found].map(([, to = ""]) => joined(path, to))];
  }),
);

test("no two files import each other, directly or by others", () => {
  const done = new Set<string>();
  const circles: string[] = [];
  const visit = (file: string, way: readonly string[]) => {
    if (way.includes(file)) circles.push([...way.slice(way.indexOf(file)), file].join(" → "));
    if (done.has(file) || way.includes(file)) return;
    for (const next of imports.get(file) ?? []) visit(next, [...way, file]);
    done.add(file);
  };
  for (const file of imports.keys()) visit(file, []);
  expect(imports.size).toBeGreaterThan(200);
  expect(circles).toEqual([]);
});

test("the rule that keeps places apart names every place", () => {
  const rules = JSON.stringify(biome);
  const places = new Set(
    [...imports.keys()].flatMap((file) => file.match(/src\/places\/(\w+)\//)?.[1] ?? []),
  );
  expect(places.size).toBeGreaterThan(9);
  for (const place of places) {
    expect(rules).toContain(`"../${place}/**"`);
    expect(rules).toContain(`"../../${place}/**"`);
  }
});

test("no component is longer than one reads in one go", () => {
  const long = Object.entries(sources).flatMap(([path, text]) =>
    [...text.matchAll(/^(?:export )?function (\w+)[\s\S]*?^}$/gm)]
      .map(([whole, name]) => ({ name: `${path} ${name}`, lines: whole.split("\n").length }))
      .filter(({ lines }) => lines > 150),
  );
  expect(long).toEqual([]);
});
