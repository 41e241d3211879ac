import { useHere } from "../../api/here";
import type { Batch } from "../../api/queries";
import { useLife } from "../../api/shelf";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { useUnits } from "../../kit/system";
import { inUnits, temperature } from "../../kit/units";
import { Decide } from "./Decide";
import type { Say } from "./stages";

/** How a batch keeps, as it went: chilled, frozen, warm; what to do before it is used; and the film on it. */
export function KeepIt({ batch, mayMark, say }: { batch: Batch; mayMark: boolean; say: Say }) {
  const here = useHere();
  const { system } = useUnits();
  const life = useLife(here.slug, batch.id);
  const filmed = batch.marks.some((mark) => mark.kind === "film");
  const known = life.data;
  // Its one sentence stands above; there is nothing to keep, and nothing to lay film on.
  if (batch.verdict === "discarded") return null;
  return (
    <section aria-label="How it keeps" className="grid gap-3">
      {/* Its room is held while it is fetched: below it stands what is touched next, and may not jump. */}
      <div className="min-h-60">
        {known?.missing?.length ? (
          <Decide batchId={batch.id} missing={known.missing} may={here.role !== "viewer"} />
        ) : known ? (
          <dl className="grid gap-x-6 gap-y-1.5 text-lg sm:grid-cols-[9rem_minmax(0,1fr)]">
            <dt className="text-soft">in the fridge</dt>
            <dd className={known.chilled_h ? "" : "font-bold text-brick"}>
              <Facts
                of={[
                  known.days >= 1 ? (
                    <b key="days">{known.days === 1 ? "a day" : `${known.days} days`}</b>
                  ) : known.chilled_h ? (
                    <b key="days">the same day</b>
                  ) : (
                    "not at all"
                  ),
                  inUnits(known.why, system),
                  known.chilled_h ? `opened ${known.opened_days} days at most` : null,
                ]}
              />
            </dd>
            <dt className="text-soft">frozen</dt>
            <dd>
              {known.freezes_days ? <b>{known.freezes_days} days. </b> : null}
              {inUnits(known.freezing, system)}
            </dd>
            <dt className="text-soft">warm</dt>
            <dd>
              <Facts
                of={[
                  known.warm_h
                    ? `at ${temperature(known.warm_c, system, 0)} or hotter ${known.warm_h} h`
                    : `not at ${temperature(known.warm_c, system, 0)}: it would curdle`,
                  `cooler ${known.lukewarm_h} h at most`,
                ]}
              />
            </dd>
            {known.rests_h ? (
              <>
                <dt className="text-soft">{known.rests_to === "churn" ? "to be churned" : "to set"}</dt>
                <dd>{known.rests_h} h cold right through</dd>
              </>
            ) : null}
            {known.stir.length ? (
              <>
                <dt className="text-soft">before use</dt>
                <dd>
                  {known.stir.map((one) => (
                    <p key={one}>{inUnits(one, system)}</p>
                  ))}
                </dd>
              </>
            ) : null}
          </dl>
        ) : null}
      </div>
      <p className="text-soft">Your own food-safety plan and local code come first.</p>
      {filmed ? (
        <p className="text-herb">✓ Film is on it.</p>
      ) : mayMark ? (
        <Button
          look="iron"
          large
          className="justify-self-start"
          onClick={() => say({ stage: "keep", kind: "film", note: "" })}
        >
          Film is right on it
        </Button>
      ) : null}
    </section>
  );
}
