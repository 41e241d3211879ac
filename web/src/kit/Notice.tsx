import type { ReactNode } from "react";
import { Button } from "./Button";

/** Something the person has to know, where it arises: calm, or something that went wrong. */
export function Notice({ tone = "calm", children }: { tone?: "calm" | "wrong"; children: ReactNode }) {
  const look = tone === "wrong" ? "border-brick text-brick" : "border-slate text-slate";
  return (
    <div role={tone === "wrong" ? "alert" : "status"} className={`border-l-4 bg-paper px-4 py-3 ${look}`}>
      {children}
    </div>
  );
}

export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="py-10 text-soft">
      Fetching {what} …
    </p>
  );
}

/** What stands in a place's stead when it could not be fetched. */
export function Failed({ sentence, again }: { sentence: string; again: () => void }) {
  return (
    <div className="py-8">
      <Notice tone="wrong">{sentence}</Notice>
      <Button className="mt-4" onClick={again}>
        Try again
      </Button>
    </div>
  );
}

/** An empty place says what would be here, and how it comes here. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="max-w-xl py-10">
      <h2>{title}</h2>
      <div className="mt-2 text-soft">{children}</div>
    </div>
  );
}
