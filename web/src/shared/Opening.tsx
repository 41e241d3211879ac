import type { ReactNode } from "react";
import { Spoon } from "../drawings/Spoon";

/** What stands beside every way in. */
export function Opening({ children }: { children: ReactNode }) {
  return (
    <main className="mx-auto grid min-h-screen max-w-[900px] content-center items-center gap-10 px-5 py-10 md:grid-cols-[1fr_420px]">
      <div className="flex items-center gap-6">
        <Spoon film={{ film_mm: 0.34, line: "holds", word: "nappe" }} size={220} />
        <div>
          <h1 className="text-[2.6rem]">Old Spoon</h1>
          <p className="mt-2 text-lg text-soft">
            Where it thickens, when to lift it, and what it was like last time.
          </p>
        </div>
      </div>
      {children}
    </main>
  );
}
