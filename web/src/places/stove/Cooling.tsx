import { useState } from "react";
import { useHere } from "../../api/here";
import { useHearth } from "../../api/kitchen";
import {
  type CoolingUsual,
  NOW_AND_THEN_MS,
  useChooseCooling,
  useLive,
  useUsualCooling,
} from "../../api/live";
import { Problem } from "../../api/problem";
import type { Batch } from "../../api/queries";
import { useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { fixed } from "../../kit/habits";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits, massText, temperature } from "../../kit/units";
import { VESSEL_KINDS } from "../../kit/vessels";
import { hours } from "../../kit/when";
import { CooledRecord } from "./CooledRecord";
import { CoolingForm } from "./CoolingForm";
import { CoolingVerdict } from "./CoolingVerdict";
import { LiveCooling } from "./LiveCooling";
import type { Say } from "./stages";

interface Props {
  batch: Batch;
  mayMark: boolean;
  say: Say;
}

/** How it is cooled: what this kitchen usually does, judged; or something else; then followed until it is cold. */
export function Cooling({ batch, mayMark, say }: Props) {
  const here = useHere();
  const began = batch.marks.find((mark) => mark.kind === "into-ice");
  const live = useLive(
    here.slug,
    batch.id,
    batch.closed_at === null && began !== undefined,
    true,
    NOW_AND_THEN_MS,
  );
  const asks = mayMark && batch.closed_at === null;
  const usual = useUsualCooling(here.slug, batch.id, asks && batch.cooling === null);
  const [other, setOther] = useState(false);
  if (began && batch.cooling && !other && batch.closed_at === null)
    return (
      <LiveCooling
        batch={batch}
        live={live.data}
        mayMark={mayMark}
        say={say}
        onOther={mayMark ? () => setOther(true) : null}
      />
    );
  if (batch.closed_at !== null) return <CooledRecord batch={batch} />;
  if (!asks) return null;
  if (batch.cooling === null && !other) {
    if (usual.data) return <Usual batch={batch} usual={usual.data} onOther={() => setOther(true)} />;
    if (usual.isPending) return <Loading what="how it would cool" />;
    // The server is busy or away; where there is no usual way, the form asks.
    if (usual.error instanceof Problem && usual.error.away)
      return <Failed sentence={usual.error.message} again={() => void usual.refetch()} />;
  }
  return <CoolingForm batch={batch} like={usual.data?.wanted} onChosen={() => setOther(false)} />;
}

interface UsualProps {
  batch: Batch;
  usual: CoolingUsual;
  onOther: () => void;
}

/** The answer first: in what, by what, in time or not; putting it away takes it. */
function Usual({ batch, usual, onOther }: UsualProps) {
  const here = useHere();
  const { system } = useUnits();
  const choose = useChooseCooling(here.slug, batch.id);
  const began = batch.marks.some((mark) => mark.kind === "into-ice");
  const { plan } = usual;
  return (
    <section aria-label="How it is cooled" className="grid gap-3 border border-hair bg-paper p-4">
      <h3 className="text-[1.2rem]">Cooled like this</h3>
      <Facts
        className="text-xl"
        of={[<b key="in">{massText(batch.plan.yield_g, system)}</b>, ...useWords(usual)]}
      />
      <Facts className="text-lg" of={reachedBy(plan, (c) => temperature(c, system, 0))} />
      <CoolingVerdict plan={plan}>
        <div className="flex flex-wrap gap-3">
          {began ? (
            <Button
              look="solid"
              large
              disabled={choose.isPending}
              onClick={() => choose.mutate(usual.wanted)}
            >
              It is cooled so
            </Button>
          ) : null}
          <Button large onClick={onOther}>
            Something else
          </Button>
        </div>
      </CoolingVerdict>
      {choose.error ? <Notice tone="wrong">{inUnits(choose.error.message, system)}</Notice> : null}
    </section>
  );
}

/** In what and by what ways, in words. */
function useWords({ wanted, like }: CoolingUsual): string[] {
  const here = useHere();
  const hearth = useHearth(here.slug);
  const larder = useLarder();
  const { vessel } = wanted;
  const kind = VESSEL_KINDS.find((one) => one.value === vessel.kind)?.shown ?? vessel.kind;
  const round = `${fixed(vessel.length_cm, 0)} cm ${kind}`;
  const name = (way: CoolingUsual["wanted"]["ways"][number]) =>
    hearth.data?.coolers.find((one) => one.id === way.cooler_id)?.name ??
    larder.data?.coolings.find((one) => one.by === way.by)?.name ??
    "";
  return [
    (vessel.count ?? 1) > 1 ? `${vessel.count} × ${round}` : round,
    ...wanted.ways.flatMap((way) => [
      name(way),
      ...(way.stirred ? ["stirred"] : []),
      ...(way.minutes == null ? [] : [`${fixed(way.minutes, 0)} min`]),
    ]),
    ...(like === null ? [] : [`as batch ${like}`]),
  ];
}

/** When it is below each limit, as planned. */
function reachedBy({ t_s, core_c, limits }: CoolingUsual["plan"], degrees: (c: number) => string): string[] {
  return limits.flatMap(({ limit_c }) => {
    const at = core_c.findIndex((c) => c <= limit_c);
    const seconds = t_s[at];
    return at < 0 || seconds === undefined ? [] : [`${degrees(limit_c)} in ${hours(seconds)}`];
  });
}
