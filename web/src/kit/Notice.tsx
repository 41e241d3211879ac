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

/** While something is fetched; `title` where that is all there is on the page. */
export function Loading({ what, title }: { what: string; title?: string }) {
  return (
    <>
      {title ? <h1>{title}</h1> : null}
      <p role="status" className="py-10 text-soft">
        Fetching {what} …
      </p>
    </>
  );
}

interface FailedProps {
  sentence: string;
  again: () => void;
  title?: string;
}

/** What stands in a place's stead when it could not be fetched; `title` where that is all there is on the page. */
export function Failed({ sentence, again, title }: FailedProps) {
  return (
    <div className={title ? "" : "py-8"}>
      {title ? <h1 className="mb-4">{title}</h1> : null}
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
