import type { ReactNode } from "react";
import { Link } from "react-router";

interface Props {
  label: string;
  pages: readonly { to: string; shown: string; here: boolean }[];
  children: ReactNode;
}

/** Something in pages: their names at the side, in one row where there is no room, and beside them the one open. */
export function Pages({ label, pages, children }: Props) {
  return (
    <div className="grid items-start gap-x-10 gap-y-5 lg:grid-cols-[13rem_minmax(0,46rem)]">
      <nav
        aria-label={label}
        className="flex gap-x-1 overflow-x-auto border-b border-hair print:hidden lg:grid lg:border-b-0"
      >
        {pages.map((one) => (
          <Link
            key={one.to}
            to={one.to}
            aria-current={one.here ? "page" : undefined}
            className={`flex min-h-11 shrink-0 items-center border-b-4 px-3 no-underline lg:border-b-0 lg:border-l-4 ${one.here ? "border-yolk font-bold" : "border-transparent text-soft"}`}
          >
            {one.shown}
          </Link>
        ))}
      </nav>
      <div className="grid min-w-0 gap-8">{children}</div>
    </div>
  );
}
