import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Here } from "../../api/here";
import { useBringBack, useThrowAway } from "../../api/people";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Sheet } from "../../kit/Sheet";
import { useTold } from "../../kit/Told";

/** A made-up kitchen says so, and can be left and thrown away. */
export function Demo({ here }: { here: Here }) {
  const away = useThrowAway(here.slug);
  const back = useBringBack();
  const { tell } = useTold();
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  return (
    <section aria-label="The demo" className="border-t border-hair pt-5">
      <h2 className="mb-2">This kitchen is made up</h2>
      <p className="mb-3 text-soft">
        Its people, formulas and batches are for looking around. Try everything; nothing here is anybody’s.
      </p>
      <div className="flex flex-wrap gap-3">
        <Link
          to="/new-kitchen"
          className="flex min-h-11 items-center rounded-solid border border-iron bg-iron px-4 font-bold text-paper no-underline"
        >
          Begin a kitchen of your own
        </Link>
        <Button look="danger" onClick={() => setAsking(true)}>
          Throw the demo away
        </Button>
      </div>
      <Sheet open={asking} onClose={() => setAsking(false)} title={`Throw ${here.name} away?`}>
        <p>
          Nobody enters it any more. Its records stay in the database, as records do, until that is deleted.
          It can be brought back for a minute.
        </p>
        <div className="mt-4 flex flex-wrap gap-3">
          <Button
            look="danger"
            disabled={away.isPending}
            onClick={() =>
              // This page may go with its kitchen before a callback of `mutate` runs.
              away.mutateAsync().then(
                () => {
                  tell({ say: `${here.name} is thrown away.`, back: () => back.mutateAsync(here.slug) });
                  navigate("/");
                },
                () => {}, // shown below, from `away.error`
              )
            }
          >
            Throw it away
          </Button>
          <Button onClick={() => setAsking(false)}>Leave it</Button>
        </div>
        {away.error ? (
          <div className="mt-3">
            <Notice tone="wrong">{away.error.message}</Notice>
          </div>
        ) : null}
      </Sheet>
    </section>
  );
}
