import { useCombobox } from "downshift";
import { type ReactNode, useEffect, useId, useRef, useState } from "react";
import { Wrong } from "./Field";
import { foundIn } from "./finding";

export interface ComboItem {
  value: string;
  shown: string;
  /** What else it is called: it is found by these words too. */
  also?: readonly string[];
  /** The heading it stands under while nothing is typed. */
  group?: string;
}

interface Props {
  label: string;
  hideLabel?: boolean;
  /** In the order they stand in while nothing is typed. */
  items: readonly ComboItem[];
  value?: string;
  placeholder?: string;
  error?: string | undefined;
  /** What to say, and perhaps do, when nothing is found. */
  none?: (typed: string) => ReactNode;
  /** What Enter does then. */
  onNone?: ((typed: string) => void) | undefined;
  onChoose: (value: string) => void;
  /** Cleared after each choice, so that one can choose again. */
  clears?: boolean;
  disabled?: boolean;
}

const MOST_SHOWN = 60;
const NO_LIST = {
  "aria-expanded": false,
  "aria-controls": undefined,
  "aria-activedescendant": undefined,
};

/** One of many, found by typing: the arrows go through what is found, Enter takes it, Escape closes. */
export function Combobox({
  label,
  hideLabel = false,
  items,
  value = "",
  placeholder = "",
  error,
  none,
  onNone,
  onChoose,
  clears = false,
  disabled = false,
}: Props) {
  const chosen = items.find((one) => one.value === value) ?? null;
  const [typed, setTyped] = useState("");
  const found = foundIn(items, typed).slice(0, MOST_SHOWN);
  const id = useId();
  const box = useCombobox<ComboItem>({
    inputId: id,
    items: found.map((one) => one.item),
    itemToString: (item) => item?.shown ?? "",
    selectedItem: clears ? null : chosen,
    onInputValueChange: ({ inputValue, selectedItem }) =>
      setTyped(selectedItem && inputValue === selectedItem.shown ? "" : (inputValue ?? "")),
    onSelectedItemChange: ({ selectedItem }) => {
      if (selectedItem) onChoose(selectedItem.value);
    },
    stateReducer: (state, { type, changes }) => {
      const { ItemClick, InputKeyDownEnter, InputBlur, ControlledPropUpdatedSelectedItem } =
        useCombobox.stateChangeTypes;
      // Nothing stays chosen where it clears: what is typed next is not to be put right by that.
      if (clears && type === ControlledPropUpdatedSelectedItem)
        return { ...changes, inputValue: state.inputValue };
      if (clears && (type === ItemClick || (type === InputKeyDownEnter && changes.selectedItem)))
        return { ...changes, inputValue: "" };
      // Left half typed, it shows again what was chosen.
      if (type === InputBlur && !changes.selectedItem)
        return { ...changes, inputValue: clears ? "" : (chosen?.shown ?? "") };
      return changes;
    },
    defaultHighlightedIndex: 0,
  });
  const empty = box.isOpen && found.length === 0;
  const below = useRef<HTMLDivElement>(null);
  // At the foot of a page it would open out of sight.
  useEffect(() => {
    if (box.isOpen) below.current?.scrollIntoView({ block: "nearest" });
  }, [box.isOpen]);
  return (
    <div className="relative min-w-0">
      <label {...box.getLabelProps()} htmlFor={id} className={hideLabel ? "sr-only" : "mb-1 block text-soft"}>
        {label}
      </label>
      <input
        {...box.getInputProps({
          disabled,
          onKeyDown: (event) => {
            if (event.key === "Enter" && empty && onNone) {
              event.preventDefault();
              onNone(typed);
            }
          },
        })}
        // With nothing to choose from, no list is open.
        {...(empty ? NO_LIST : {})}
        className="w-full"
        placeholder={placeholder}
        autoComplete="off"
        spellCheck={false}
        aria-invalid={Boolean(error)}
        aria-describedby={error ? `${id}-error` : undefined}
      />
      {error ? <Wrong id={`${id}-error`}>{error}</Wrong> : null}
      <div ref={below} className="absolute top-full right-0 left-0 z-30">
        <ul
          {...box.getMenuProps()}
          className={`max-h-80 overflow-y-auto border border-iron bg-paper ${box.isOpen && found.length ? "" : "hidden"}`}
        >
          {box.isOpen
            ? found.map(({ item, by }, index) => (
                <li
                  key={`${item.group} ${item.value}`}
                  {...box.getItemProps({ item, index })}
                  className={`min-h-11 cursor-pointer px-3 py-2 ${box.highlightedIndex === index ? "bg-yolk-pale" : ""}`}
                >
                  {item.group && (index === 0 || found[index - 1]?.item.group !== item.group) && !typed ? (
                    <span className="block pb-1 text-sm text-soft">{item.group}</span>
                  ) : null}
                  {item.shown}
                  {by ? <span className="text-soft"> · {by}</span> : null}
                </li>
              ))
            : null}
        </ul>
        {empty ? (
          <div className="border border-iron bg-paper px-3 py-2">
            {none ? none(typed) : "Nothing of that name."}
          </div>
        ) : null}
      </div>
    </div>
  );
}
