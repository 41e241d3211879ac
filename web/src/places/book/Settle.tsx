import { type FormEvent, type KeyboardEvent, useState } from "react";
import { useNavigate } from "react-router";
import type { ImportOut } from "../../api/bench";
import { useHere } from "../../api/here";
import { useIngredientChoices } from "../../api/ingredients";
import { useOwnIngredients } from "../../api/kitchen";
import { Problem } from "../../api/problem";
import { useAssessment, useLarder, useSave } from "../../api/queries";
import { Button } from "../../kit/Button";
import { FamilyField } from "../../kit/FamilyField";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { AsWritten } from "./AsWritten";
import { HowItIsMade } from "./HowItIsMade";
import { SettlingLine } from "./SettlingLine";
import { draftOf, nextUnsettled, placesOf, type Settling, settling, stateOf } from "./settling";
import { WhatItWillDo } from "./WhatItWillDo";

interface Props {
  found: ImportOut;
  /** The photograph that it was read from. */
  picture?: string | undefined;
  onChangeText: () => void;
  /** What follows once it is in the book; else its Bench opens. */
  onSaved?: (formula: number) => void;
}

/** A recipe as it was read: settled line by line, with Enter or by touch, and then into the book. */
export function Settle({ found, picture, onChangeText, onSaved }: Props) {
  const here = useHere();
  const navigate = useNavigate();
  const save = useSave(here.slug, null);
  const [name, setName] = useState(found.name);
  const [family, setFamily] = useState(found.draft?.family ?? found.family);
  const [lines, setLines] = useState(() => settling(found));
  const [card, setCard] = useState(found.card);
  const [schools, setSchools] = useState<Record<string, string>>(found.schools);
  const problem = save.error instanceof Problem ? save.error : null;
  const open = lines.filter((line) => stateOf(line) === "open").length;
  const own = useOwnIngredients(here.slug).data ?? [];
  const draft = draftOf(found, lines, { name, family, own, card });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const recipe = found.draft ? "" : found.text;
    save.mutate(
      { draft, base: 0, note: "", recipe, picture: picture ?? null, schools },
      {
        onSuccess: (made) => {
          if (onSaved) onSaved(made.id);
          else navigate(`/k/${here.slug}/book/${made.id}`);
        },
      },
    );
  };
  const elsewhere = problem?.beside("name", "family", ...(found.draft ? [] : ["lines["]));
  const some = placesOf(lines).length > 0 || found.draft !== null;
  return (
    <div className="grid gap-8 lg:grid-cols-[18rem_minmax(0,1fr)] xl:grid-cols-[20rem_minmax(0,1fr)_16rem]">
      <AsWritten found={found} picture={picture} onChange={onChangeText} />
      <form onSubmit={submit} noValidate aria-label="Settle" className="grid content-start gap-4">
        <Title {...{ found, name, setName, family, setFamily, problem }} />
        {found.draft ? null : <Lines {...{ found, lines, setLines, draft, problem }} />}
        <HowItIsMade {...{ found, schools, card }} onSchools={setSchools} onCard={setCard} />
        {elsewhere ? <Notice tone="wrong">{elsewhere}</Notice> : null}
        <div className="flex flex-wrap items-center gap-3">
          <Button look="solid" type="submit" disabled={save.isPending || open > 0 || !some}>
            {here.role === "chef" ? "Into the book" : "Propose it"}
          </Button>
          <Counts
            lines={lines}
            onAccept={() => setLines(lines.map((line) => ({ ...line, accepted: true })))}
          />
        </div>
      </form>
      {some ? <WhatItWillDo draft={draft} missing={found.missing} /> : null}
    </div>
  );
}

interface TitleProps {
  found: ImportOut;
  name: string;
  setName: (name: string) => void;
  family: string;
  setFamily: (family: string) => void;
  problem: Problem | null;
}

function Title({ found, name, setName, family, setFamily, problem }: TitleProps) {
  const families = useLarder().data?.families ?? [];
  return (
    <>
      <h2 className="sr-only">What was read</h2>
      <div className="grid gap-4 sm:grid-cols-2">
        <TextBox label="Name" error={problem?.at("name")} maxLength={200} value={name} onChange={setName} />
        <FamilyField
          families={families}
          error={problem?.at("family")}
          disabled={found.draft !== null}
          value={family}
          onChange={setFamily}
        />
      </div>
      {found.why ? (
        <p className="-mt-2 text-sm text-yolk-ink">
          {found.ours ? found.why : `${found.why}; computed as the nearest: ${found.missing}`}
        </p>
      ) : null}
    </>
  );
}

interface LinesProps {
  found: ImportOut;
  lines: readonly Settling[];
  setLines: (lines: readonly Settling[]) => void;
  draft: ReturnType<typeof draftOf>;
  problem: Problem | null;
}

function Lines({ lines, setLines, draft, problem }: LinesProps) {
  const here = useHere();
  const { items } = useIngredientChoices(here.slug);
  const { seen } = useAssessment(here.slug, null, draft);
  const [active, setActive] = useState<number | null>(() => nextUnsettled(lines, -1));
  const places = placesOf(lines);
  const names = new Map(items.map((one) => [one.value, one.shown]));
  const grams = (at: number) => {
    const place = places.indexOf(at);
    const parts = seen?.slip.filter((one) => one.line === place) ?? [];
    return parts.length ? parts.reduce((sum, one) => sum + one.mass_g, 0) : (lines[at]?.grams ?? null);
  };
  const put = (at: number, line: Settling) => setLines(lines.map((one, i) => (i === at ? line : one)));
  const goOn = (event: KeyboardEvent) => {
    const line = active === null ? undefined : lines[active];
    if (event.key !== "Enter" || active === null || !line || stateOf(line) === "open") return;
    event.preventDefault();
    const next = lines.map((one, i) => (i === active ? { ...one, accepted: true } : one));
    setLines(next);
    const at = nextUnsettled(next, active);
    setActive(at);
    document.getElementById(at === null ? "accept-all" : `line-${at}`)?.focus();
  };
  return (
    <ul className="border-t border-hair" onKeyDown={goOn}>
      {lines.map((line, at) => (
        <SettlingLine
          // biome-ignore lint/suspicious/noArrayIndexKey: lines are told apart by their place
          key={at}
          at={at}
          line={line}
          name={names.get(line.ingredient) ?? ""}
          grams={grams(at)}
          active={active === at}
          error={problem?.below(`lines[${places.indexOf(at)}]`)}
          onActive={() => setActive(active === at ? null : at)}
          onChange={(next) => put(at, next)}
        />
      ))}
    </ul>
  );
}

function Counts({ lines, onAccept }: { lines: readonly Settling[]; onAccept: () => void }) {
  const count = (state: string) => lines.filter((line) => stateOf(line) === state).length;
  const assumed = count("assumed");
  if (!lines.length) return null;
  return (
    <>
      <Button id="accept-all" disabled={assumed === 0} onClick={onAccept}>
        Accept all that was assumed
      </Button>
      <p role="status" className="text-sm text-soft">
        {count("sure")} sure · {assumed} assumed · {count("open")} open · <b>Enter</b> goes on to the next
      </p>
    </>
  );
}
