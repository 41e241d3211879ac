import { DropdownMenu, Popover } from "radix-ui";
import { type FormEvent, useState } from "react";
import { Button } from "./Button";
import { TextBox } from "./TextBox";

const WORD =
  "min-h-11 cursor-pointer font-bold underline decoration-line decoration-dotted decoration-2 underline-offset-[6px] hover:decoration-yolk";
const PAPER = "z-40 border border-iron bg-paper text-iron";

interface Named {
  /** What the word is about, for who does not see it. */
  label: string;
  shown: string;
}

interface OneOfProps extends Named {
  options: readonly { value: string; shown: string }[];
  value: string;
  onChange: (value: string) => void;
}

/** A word of an answer that is one of a list: touched, it can be another. */
export function OneOfWord({ label, shown, options, value, onChange }: OneOfProps) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className={WORD} aria-label={`${label}: ${shown}`}>
        {shown}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={document.getElementById("main")}>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className={`${PAPER} max-h-[var(--radix-dropdown-menu-content-available-height)] min-w-56 overflow-y-auto p-1.5`}
        >
          <DropdownMenu.RadioGroup value={value} onValueChange={onChange}>
            {options.map((one) => (
              <DropdownMenu.RadioItem
                key={one.value}
                value={one.value}
                className="flex min-h-11 cursor-pointer items-center justify-between gap-4 px-3 outline-none data-[highlighted]:bg-yolk-pale"
              >
                {one.shown}
                <DropdownMenu.ItemIndicator aria-hidden="true">✓</DropdownMenu.ItemIndicator>
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

interface TypedProps extends Named {
  hint?: string;
  /** What is typed, as a number; NaN where it is none. */
  read: (text: string) => number;
  /** What is said where it is none. */
  wrong?: string;
  /** Null where the field is left empty. */
  onValue: (value: number | null) => void;
}

/** A word of an answer that is a figure: touched, it is typed. */
export function TypedWord({
  label,
  shown,
  hint = "",
  read,
  wrong: sentence = "Write a number.",
  onValue,
}: TypedProps) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState("");
  const [tried, setTried] = useState(false);
  const value = typed.trim() ? read(typed) : null;
  const wrong = value !== null && !Number.isFinite(value);
  const turn = (now: boolean) => {
    setOpen(now);
    setTyped("");
    setTried(false);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    event.stopPropagation();
    setTried(true);
    if (wrong) return;
    onValue(value);
    turn(false);
  };
  return (
    <Popover.Root open={open} onOpenChange={turn}>
      <Popover.Trigger className={WORD} aria-label={`${label}: ${shown}`}>
        {shown}
      </Popover.Trigger>
      <Popover.Portal container={document.getElementById("main")}>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          aria-label={label}
          className={`${PAPER} w-64 p-3`}
        >
          <form onSubmit={submit} noValidate className="grid gap-3">
            <TextBox
              label={label}
              hint={hint}
              error={tried && wrong ? sentence : undefined}
              numeric
              value={typed}
              onChange={setTyped}
            />
            <Button type="submit" look="iron">
              Set
            </Button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
