import { type Dispatch, useState } from "react";
import { useNavigate } from "react-router";
import type { Problem } from "../../api/problem";
import { type Draft, type FormulaOut, useFamilyName, useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { FamilyField } from "../../kit/FamilyField";
import { Field } from "../../kit/Field";
import { beside } from "../../kit/listed";
import { MEASURE_WORDS } from "../../kit/measures";
import { TextBox } from "../../kit/TextBox";
import { day } from "../../kit/when";
import type { Change } from "./draft";
import { More } from "./More";

interface Props {
  draft: Draft;
  found: FormulaOut | null;
  act: Dispatch<Change>;
  problem: Problem | null;
  portions: number | null;
}

/** The name, what is meant by an egg and a cup, and which version this is. */
export function Head({ draft, found, act, problem, portions }: Props) {
  const larder = useLarder();
  const navigate = useNavigate();
  const [open, setOpen] = useState(found === null);
  const family = useFamilyName()(draft.family);
  const nameProblem = problem?.at("name");
  return (
    <div className="mb-5">
      <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <div className="min-w-0">
          <h1 className="break-words">{draft.name.trim() || "No name yet"}</h1>
          <Facts
            className="text-soft"
            of={[
              family,
              portions ? `${portions} portions of 60 g` : null,
              `eggs ${draft.eggs}`,
              MEASURE_WORDS[draft.measures ?? "metric"],
            ]}
          />
        </div>
        <div className="flex flex-wrap items-end gap-3">
          {found ? (
            <label className="text-soft">
              <span className="mr-2">version</span>
              <select
                className="max-w-72"
                value={found.version}
                onChange={(event) => {
                  const version = Number(event.target.value);
                  navigate(version === found.latest ? "?" : `?v=${version}`);
                }}
              >
                {found.versions.map((row) => (
                  <option key={row.number} value={row.number}>
                    {beside([row.number, day(row.at), row.by, row.note])}
                  </option>
                ))}
              </select>
            </label>
          ) : null}
          <Button aria-expanded={open} onClick={() => setOpen(!open)}>
            Name, eggs, cups
          </Button>
          {found ? <More found={found} /> : null}
        </div>
      </div>
      {open || nameProblem ? (
        <div className="mt-3 grid gap-4 border-y border-hair py-4 sm:grid-cols-2 lg:grid-cols-4">
          <TextBox
            label="Name"
            error={nameProblem}
            maxLength={200}
            value={draft.name}
            onChange={(typed) => act({ do: "head", part: "name", value: typed })}
          />
          <FamilyField
            families={larder.data?.families ?? []}
            error={problem?.at("family")}
            value={draft.family}
            onChange={(value) => act({ do: "head", part: "family", value })}
          />
          <Field label="An egg means" error={problem?.at("eggs")}>
            {(given) => (
              <select
                {...given}
                className="w-full"
                value={draft.eggs}
                onChange={(event) => act({ do: "head", part: "eggs", value: event.target.value })}
              >
                {larder.data?.eggs.map((egg) => (
                  <option key={egg.size} value={egg.size}>
                    {egg.name}: yolk {egg.yolk_g} g, white {egg.white_g} g
                  </option>
                ))}
              </select>
            )}
          </Field>
          <Field label="A cup means" error={problem?.at("measures")}>
            {(given) => (
              <select
                {...given}
                className="w-full"
                value={draft.measures}
                onChange={(event) => act({ do: "head", part: "measures", value: event.target.value })}
              >
                {larder.data?.measures.map((one) => (
                  <option key={one} value={one}>
                    {MEASURE_WORDS[one]}
                  </option>
                ))}
              </select>
            )}
          </Field>
        </div>
      ) : null}
    </div>
  );
}
