import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { useHere } from "../../api/here";
import { useChefActions, useSection } from "../../api/practice";
import { Button } from "../../kit/Button";
import { Wrong } from "../../kit/Field";
import { Failed, Loading } from "../../kit/Notice";
import { SelectBox } from "../../kit/SelectBox";
import { TextBox } from "../../kit/TextBox";
import { day } from "../../kit/when";

/** Everybody of the section beside every exercise. */
export function SectionPage() {
  const here = useHere();
  const section = useSection(here.slug);
  if (section.isPending) return <Loading title="The section" what="the section" />;
  if (section.isError)
    return (
      <Failed title="The section" sentence={section.error.message} again={() => void section.refetch()} />
    );
  const { people, exercises, signs } = section.data;
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 border-b border-hair pb-3">
        <h1>The section</h1>
        <Link to="..">Practice</Link>
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, and keys scroll it */}
      <section className="relative mt-4 overflow-x-auto" tabIndex={0} aria-label="Who has passed what">
        <table className="text-left">
          <thead>
            <tr className="border-b border-iron align-bottom">
              <th className="py-2 pr-6 font-normal text-soft">who</th>
              <th className="py-2 pr-6 font-normal text-soft">signs</th>
              {exercises.map((one) => (
                <th key={one.key} className="px-1 py-2 text-sm font-normal">
                  <span className="inline-block max-h-44 [writing-mode:vertical-rl] rotate-180">
                    {one.name}
                  </span>
                </th>
              ))}
              <th className="py-2 pl-6 font-normal text-soft">last at it</th>
            </tr>
          </thead>
          <tbody>
            {people.map((line) => (
              <tr key={line.person.id} className="border-b border-hair">
                <th className="py-2 pr-6 font-bold">
                  <Link to={`../people/${line.person.id}`} relative="path">
                    {line.person.name}
                  </Link>
                </th>
                <td className="tabular py-2 pr-6">
                  {line.signs.length} of {signs.length}
                </td>
                {exercises.map((one) => {
                  const passed = line.passed.includes(one.key);
                  return (
                    <td key={one.key} className="px-1 py-2 text-center">
                      <span aria-hidden="true" className={passed ? "font-bold" : "text-soft"}>
                        {passed ? "✓" : "·"}
                      </span>
                      <span className="sr-only">{passed ? "passed" : "not yet"}</span>
                    </td>
                  );
                })}
                <td className="py-2 pl-6 text-soft">
                  {line.last_at ? `${day(line.last_at)}, ${line.attempts} in all` : "never yet"}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <NewSheet people={people.map((line) => line.person)} />
    </>
  );
}

function NewSheet({ people }: { people: readonly { id: number; name: string }[] }) {
  const here = useHere();
  const navigate = useNavigate();
  const { beginSheet } = useChefActions(here.slug);
  const [person, setPerson] = useState("");
  const [over, setOver] = useState("");
  return (
    <section aria-label="Assess someone" className="mt-8 max-w-xl">
      <h2>Assess someone</h2>
      <p className="text-soft">
        A sheet to fill in by touch while they cook. From a batch at the stove it is one touch, too.
      </p>
      <form
        className="mt-2 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          beginSheet.mutate(
            { person_id: Number(person), batch_id: null, attempt_id: null, over: over.trim() },
            { onSuccess: (made) => navigate(`../sheets/${made.id}`, { relative: "path" }) },
          );
        }}
      >
        <div className="w-48">
          <SelectBox
            label="Whom"
            none="who?"
            options={people.map((one) => ({ value: String(one.id), shown: one.name }))}
            value={person}
            onChange={setPerson}
          />
        </div>
        <div className="w-56">
          <TextBox label="Over what" value={over} maxLength={80} onChange={setOver} />
        </div>
        <Button type="submit" look="solid" disabled={!person || beginSheet.isPending}>
          Begin a sheet
        </Button>
      </form>
      {beginSheet.isError ? <Wrong>{beginSheet.error.message}</Wrong> : null}
    </section>
  );
}
