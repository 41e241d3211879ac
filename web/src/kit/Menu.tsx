import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

const SOLID = "flex min-h-11 items-center rounded-solid border border-line px-4";

interface Props {
  label: ReactNode;
  /** How the button looks where it is not one of its own. */
  look?: string;
  children: ReactNode;
}

/** A button that opens a short list of things to do. */
export function Menu({ label, look = SOLID, children }: Props) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className={look}>{label}</DropdownMenu.Trigger>
      <DropdownMenu.Portal container={document.getElementById("main")}>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-40 min-w-56 border border-iron bg-paper p-1.5 text-iron"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const ITEM =
  "flex min-h-11 cursor-pointer items-center px-3 no-underline outline-none data-[highlighted]:bg-yolk-pale";

export function MenuAction({ onSelect, children }: { onSelect: () => void; children: ReactNode }) {
  return (
    <DropdownMenu.Item className={ITEM} onSelect={onSelect}>
      {children}
    </DropdownMenu.Item>
  );
}

export function MenuFile({ href, children }: { href: string; children: ReactNode }) {
  return (
    <DropdownMenu.Item className={ITEM} asChild>
      <a href={href} download>
        {children}
      </a>
    </DropdownMenu.Item>
  );
}

export function MenuBreak() {
  return <DropdownMenu.Separator className="my-1 h-px bg-hair" />;
}
