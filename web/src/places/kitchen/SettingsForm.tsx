import type { FormEvent, ReactNode } from "react";
import type { Here } from "../../api/here";
import { Problem } from "../../api/problem";
import type { KitchenChange, useChangeKitchen } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";

interface Props {
  here: Here;
  /** Kept above what is begun again once it is kept, so that it is told. */
  keep: ReturnType<typeof useChangeKitchen>;
  name: string;
  /** What is told to be kept; null while something typed cannot be. */
  change: KitchenChange | null;
  /** The fields that show their own sentence. */
  shows: readonly string[];
  children: (given: { problem: Problem | null; locked: boolean }) => ReactNode;
}

/** Some of the kitchen's settings, kept together by one button. */
export function SettingsForm({ here, keep, name, change, shows, children }: Props) {
  const problem = keep.error instanceof Problem ? keep.error : null;
  const locked = here.role !== "chef";
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (change) keep.mutate(change);
  };
  return (
    <form onSubmit={submit} noValidate aria-label={name} className="grid max-w-xl gap-5">
      {children({ problem, locked })}
      {locked ? (
        <p className="text-soft">A chef of this kitchen changes these.</p>
      ) : (
        <div className="flex items-center gap-4">
          <Button look="iron" type="submit" disabled={keep.isPending}>
            Keep these
          </Button>
          <span role="status" className="text-soft">
            {keep.isPending ? "Saving …" : keep.isSuccess ? "Kept." : ""}
          </span>
        </div>
      )}
      {problem?.beside(...shows) ? <Notice tone="wrong">{problem.message}</Notice> : null}
    </form>
  );
}
