import { useCombobox } from "downshift";
import { useEffect, useId, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { useLog } from "../api/log";
import { useCrew } from "../api/people";
import { type Kitchen, useBook, useFamilyName } from "../api/queries";
import { useShelf } from "../api/shelf";
import { Facts } from "../kit/Facts";
import { foundIn } from "../kit/finding";
import { useAllKeys } from "../kit/keys";
import { Notice } from "../kit/Notice";
import { useSettled } from "../kit/settled";
import { useUnits } from "../kit/system";
import { massText } from "../kit/units";
import { todayHere, when } from "../kit/when";
import { PAGES as GUIDE } from "../places/guide/pages";
import { kitchenPages } from "../places/kitchen/pageNames";
import { typedDay } from "./typedDay";

const TYPED_MS = 150;
/** So many of each kind. */
const MOST = 6;

interface Thing {
  key: string;
  kind: string;
  shown: string;
  about: readonly string[];
  go: () => void;
}

interface Props {
  here: Kitchen;
  places: readonly { to: string; shown: string }[];
  onClose: () => void;
}

/** Anything by typing: formulas, batches, tubs, people, pages, help and what can be done; all of it by keys. */
export function SearchEverything({ here, places, onClose }: Props) {
  const [typed, setTyped] = useState("");
  const { things, busy, wrong } = useThings(here, places, typed);
  const id = useId();
  const waits = useRef(false);
  const take = (one: Thing | null | undefined) => {
    if (!one) return;
    onClose();
    one.go();
  };
  // Entered before it was found, it is the first of what was meant that is taken.
  useEffect(() => {
    if (busy || !waits.current) return;
    waits.current = false;
    take(things[0]);
  });
  const box = useCombobox<Thing>({
    inputId: id,
    items: things,
    isOpen: true,
    inputValue: typed,
    selectedItem: null,
    defaultHighlightedIndex: 0,
    itemToString: (one) => one?.shown ?? "",
    onInputValueChange: ({ inputValue }) => {
      waits.current = false;
      setTyped(inputValue ?? "");
    },
    onSelectedItemChange: ({ selectedItem }) => take(selectedItem),
    stateReducer: (state, { type, changes }) => {
      const { InputBlur, InputKeyDownEnter, InputKeyDownEscape } = useCombobox.stateChangeTypes;
      if (type === InputKeyDownEnter && busy) {
        waits.current = true;
        return state;
      }
      // The sheet it is in closes by itself.
      return type === InputBlur || type === InputKeyDownEscape
        ? { ...changes, inputValue: state.inputValue, selectedItem: null }
        : changes;
    },
  });
  return (
    <div>
      <label {...box.getLabelProps()} htmlFor={id} className="mb-1 block text-soft">
        A name, a number, a day, or what to do
      </label>
      <input {...box.getInputProps()} className="w-full text-xl" autoComplete="off" spellCheck={false} />
      <ul {...box.getMenuProps()} className="mt-3 min-h-[50vh]">
        {things.map((one, index) => (
          <li
            key={one.key}
            {...box.getItemProps({ item: one, index })}
            className={`flex min-h-11 cursor-pointer flex-wrap items-center justify-between gap-x-4 border-b border-hair px-3 py-1.5 ${box.highlightedIndex === index ? "bg-yolk-pale" : ""}`}
          >
            <b className="break-words">{one.shown}</b>
            <Facts inline className="text-sm text-soft" of={[one.kind, ...one.about]} />
          </li>
        ))}
      </ul>
      <p role="status" className="text-soft">
        {busy ? "Looking …" : things.length === 0 && !wrong ? "Nothing of that name." : ""}
      </p>
      {wrong ? <Notice tone="wrong">{wrong.message}</Notice> : null}
    </div>
  );
}

interface Found {
  things: Thing[];
  /** What is typed is not answered yet; what stands there is of the words before. */
  busy: boolean;
  wrong: Error | null;
}

/** What answers to the words, the likeliest kinds first. */
function useThings(here: Kitchen, places: Props["places"], typed: string): Found {
  const words = typed.trim();
  const settled = useSettled(words, TYPED_MS);
  const doable = useDoable(here, places);
  const kept = useKept(here, settled);
  const done = foundIn(doable, words).map(({ item }) => item);
  if (!words) return { things: done, busy: false, wrong: null };
  return { ...kept, things: [...kept.things, ...done], busy: kept.busy || words !== settled };
}

/** What can be done and where one can go, whatever the kitchen holds. */
function useDoable(here: Kitchen, places: Props["places"]): Thing[] {
  const navigate = useNavigate();
  const keys = useAllKeys();
  const root = `/k/${here.slug}`;
  const page = (kind: string, to: string, shown: string): Thing => ({
    key: `${kind} ${to}`,
    kind,
    shown,
    about: [],
    go: () => navigate(`${root}/${to}`),
  });
  const writes = here.role !== "viewer";
  // The places themselves are listed as pages.
  const ways = places.flatMap(({ shown }) => [`to the ${shown}`, `to ${shown}`]);
  return [
    ...(writes
      ? [
          page("do", "book/new", "New formula"),
          page("do", "book/import", "Import a recipe"),
          page("do", "day", "Plan today"),
        ]
      : []),
    ...keys
      .filter((one) => !ways.includes(one.does) && one.press !== "/" && one.press !== "ctrl+k")
      .map((one) => ({
        key: `key ${one.press}`,
        kind: "do here",
        shown: one.does,
        about: [`key ${one.press === " " ? "space" : one.press}`],
        go: one.run,
      })),
    ...places.map((one) => page("page", one.to, one.shown)),
    ...kitchenPages(here.role).map((one) => page("kitchen", `kitchen/${one.to}`, one.shown)),
    ...GUIDE.map((one) => page("guide", `guide/${one.key}`, one.title)),
  ];
}

/** What the kitchen holds of that name, number or day. */
function useKept(here: Kitchen, words: string): Found {
  const navigate = useNavigate();
  const { system } = useUnits();
  const named = useFamilyName();
  const root = `/k/${here.slug}`;
  const day = typedDay(words, todayHere());
  const number = /^(?:batch\s*)?#?(\d{1,9})$/i.exec(words)?.[1];
  const asked = number ? { number: Number(number) } : day ? { since: day, until: day } : { words };
  const any = words !== "";
  const book = useBook(here.slug, { words }, any);
  const log = useLog(here.slug, asked, any);
  const shelf = useShelf(here.slug, null, words, any);
  const crew = useCrew(here.slug);
  const all = [book, log, shelf, crew];
  const busy = any && all.some((one) => one.isLoading || one.isPlaceholderData);
  const wrong = all.find((one) => one.isError)?.error ?? null;
  if (!any) return { things: [], busy, wrong };
  const formulas = book.data?.pages[0]?.lines ?? [];
  const people = foundIn(
    (crew.data?.people ?? []).map((one) => ({ ...one, shown: one.title, also: [one.username] })),
    words,
  );
  const things = [
    ...formulas.slice(0, MOST).map((one) => ({
      key: `formula ${one.id}`,
      kind: "formula",
      shown: one.name,
      about: [named(one.family)],
      go: () => navigate(`${root}/book/${one.id}`),
    })),
    ...(log.data?.lines ?? []).slice(0, MOST).map((one) => ({
      key: `batch ${one.id}`,
      kind: `batch ${one.number}`,
      shown: one.name,
      about: [when(one.started_at), ...(one.verdict ? [one.verdict] : [])],
      go: () => navigate(`${root}/stove/${one.id}`),
    })),
    ...(shelf.data?.pages[0]?.tubs ?? []).slice(0, MOST).map((one) => ({
      key: `tub ${one.id}`,
      kind: "on the shelf",
      shown: one.name,
      about: [`batch ${one.batch}`, massText(one.left_g, system)],
      go: () => navigate(`${root}/stove/${one.batch_id}`),
    })),
    ...people.slice(0, MOST).map(({ item }) => ({
      key: `person ${item.id}`,
      kind: "person",
      shown: item.title,
      about: [item.username],
      go: () => navigate(`${root}/kitchen/people`),
    })),
  ];
  return { things, busy, wrong };
}
