import { useCombobox } from "downshift";
import { useId, useState } from "react";
import { useNavigate } from "react-router";
import { useLog } from "../api/log";
import { useCrew } from "../api/people";
import { type Kitchen, useBook, useFamilyName } from "../api/queries";
import { useShelf } from "../api/shelf";
import { Facts } from "../kit/Facts";
import { foundIn } from "../kit/finding";
import { useAllKeys } from "../kit/keys";
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
export function FindAnything({ here, places, onClose }: Props) {
  const [typed, setTyped] = useState("");
  const things = useThings(here, places, typed);
  const id = useId();
  const box = useCombobox<Thing>({
    inputId: id,
    items: things,
    isOpen: true,
    inputValue: typed,
    selectedItem: null,
    defaultHighlightedIndex: 0,
    itemToString: (one) => one?.shown ?? "",
    onInputValueChange: ({ inputValue }) => setTyped(inputValue ?? ""),
    onSelectedItemChange: ({ selectedItem }) => {
      onClose();
      selectedItem?.go();
    },
    stateReducer: (state, { type, changes }) => {
      const { InputBlur, InputKeyDownEscape } = useCombobox.stateChangeTypes;
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
        {things.length === 0 ? "Nothing of that name." : ""}
      </p>
    </div>
  );
}

/** What answers to the words, the likeliest kinds first. */
function useThings(here: Kitchen, places: Props["places"], typed: string): Thing[] {
  const doable = useDoable(here, places);
  const kept = useKept(here, useSettled(typed.trim(), TYPED_MS));
  const done = foundIn(doable, typed).map(({ item }) => item);
  return typed.trim() ? [...kept, ...done] : done;
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
  const ways = new Set(places.map((one) => `to the ${one.shown}`.toLowerCase()));
  return [
    ...(writes
      ? [
          page("do", "book/new", "New formula"),
          page("do", "book/import", "Import a recipe"),
          page("do", "day", "Plan today"),
        ]
      : []),
    ...keys
      .filter((one) => !ways.has(one.does.toLowerCase()) && one.press !== "/" && one.press !== "ctrl+k")
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
function useKept(here: Kitchen, words: string): Thing[] {
  const navigate = useNavigate();
  const { system } = useUnits();
  const named = useFamilyName();
  const root = `/k/${here.slug}`;
  const day = typedDay(words, todayHere());
  const number = /^(?:batch\s*)?#?(\d{1,9})$/i.exec(words)?.[1];
  const asked = number ? { number: Number(number) } : day ? { since: day, until: day } : { words };
  const book = useBook(here.slug, { words });
  const log = useLog(here.slug, asked);
  const shelf = useShelf(here.slug, null, words);
  const crew = useCrew(here.slug);
  if (!words) return [];
  const formulas = book.data?.pages[0]?.lines ?? [];
  const people = foundIn(
    (crew.data?.people ?? []).map((one) => ({ ...one, shown: one.title, also: [one.username] })),
    words,
  );
  return [
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
}
