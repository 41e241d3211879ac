import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { useHere } from "../../../api/here";
import { type Live, useHearing, useLive } from "../../../api/live";
import { newId } from "../../../api/newId";
import { useOutbox } from "../../../api/outbox";
import { type Batch, batchQuery } from "../../../api/queries";
import type { StageName } from "../../../contract/words";
import { LiveCurve } from "../../../drawings/LiveCurve";
import { LiveRule } from "../../../drawings/LiveRule";
import { Spoon } from "../../../drawings/Spoon";
import { Button } from "../../../kit/Button";
import { Facts } from "../../../kit/Facts";
import { fixed } from "../../../kit/habits";
import { useKeys } from "../../../kit/keys";
import { Failed, Loading } from "../../../kit/Notice";
import { useUnits } from "../../../kit/system";
import { inUnits, temperature } from "../../../kit/units";
import { useAwake } from "../../../shared/awake";
import { useSound } from "../../../shared/sound";
import { minutes, useTicking } from "../../../shared/ticking";
import { heatOf } from "../facts";
import { Kept } from "../Kept";
import type { SayAs } from "../stages";
import { NOTCH } from "../ways";
import { Alarms, Heard, toneOf } from "./Alarms";
import { Others } from "./Others";
import { Signs } from "./Signs";
import { Touches } from "./Touches";

/** One batch live: readable at two metres, usable with a knuckle. */
export function LiveStove() {
  const here = useHere();
  const id = Number(useParams().batch);
  const batch = useQuery(batchQuery(here.slug, id));
  const live = useLive(here.slug, id, !batch.data?.closed_at);
  if (batch.isError && !batch.data)
    return (
      <Failed title="The live stove" sentence={batch.error.message} again={() => void batch.refetch()} />
    );
  if (live.isError && !live.data)
    return <Failed title="The live stove" sentence={live.error.message} again={() => void live.refetch()} />;
  if (!batch.data || (!live.data && !batch.data.closed_at))
    return <Loading title="The live stove" what="the stove" />;
  if (!live.data)
    return (
      <p className="p-7 text-lg">
        This batch is closed. <Link to={`/k/${here.slug}/stove/${id}`}>Its record</Link>
      </p>
    );
  return (
    <Open
      key={id}
      batch={batch.data}
      live={live.data}
      answeredAt={live.dataUpdatedAt - 1000 * (live.data.age_s ?? 0)}
      lost={live.isError}
    />
  );
}

function Open({
  batch,
  live,
  answeredAt,
  lost,
}: {
  batch: Batch;
  live: Live;
  answeredAt: number;
  lost: boolean;
}) {
  const here = useHere();
  const { system, toggle } = useUnits();
  const outbox = useOutbox(here.slug, batch.id);
  const awake = useAwake();
  const { sound, turn, say: aloud } = useSound();
  const left = useTicking(live.seconds, live.pace, answeredAt);
  const mayMark = here.role !== "viewer" && batch.closed_at === null;
  const say: SayAs = (mark, id) => outbox.add({ ...mark, id: id ?? newId(), at: new Date().toISOString() });
  const plan = batch.plan.stages.find((stage) => stage.stage === "cook");
  const way = live.way;
  const window = live.pan?.window ?? batch.plan.window;
  const waits = outbox.waiting.length > 0 && outbox.away;
  useKeys([{ press: "u", does: "°C or °F", run: toggle }]);
  const urgent = live.alarms.find((alarm) => !alarm.silenced && alarm.say === live.say);
  const stages = batch.plan.stages.map((one) => one.stage as StageName);
  const toDo = stages.slice(0, stages.indexOf("cook")).filter((stage) => !batch.done.includes(stage));
  const before = live.phase === "waiting" && toDo.length > 0;
  return (
    <div className="flex min-h-dvh flex-col gap-2 pb-3 across:pr-[46%]">
      <StoveHead batch={batch} live={live} lost={lost} sound={sound} onSound={turn} />
      <div className="max-md:order-2 across:order-2">
        <Others kitchen={here.slug} not={batch.id} />
      </div>
      <div className="px-4 sm:px-7">
        <Alarms
          batch={batch}
          alarms={live.alarms}
          action={live.say}
          mayMark={mayMark}
          say={say}
          aloud={aloud}
        />
        {waits ? <Kept count={outbox.waiting.length} barred={outbox.barred} /> : null}
      </div>
      <div className="grid grow items-start gap-x-6 gap-y-4 px-4 max-md:order-1 sm:px-7 md:grid-cols-[minmax(0,1fr)_290px] lg:grid-cols-[270px_minmax(0,1fr)_minmax(0,420px)] across:order-1 across:grid-cols-1!">
        <section
          aria-label="Rule"
          className="order-2 h-[420px] md:h-[min(56vh,560px)] lg:order-none lg:h-[min(64vh,600px)]"
        >
          <LiveRule
            window={window}
            boiling_c={batch.plan.boiling_c}
            boiled={batch.plan.boiled}
            probe_c={live.probe_c}
            soon_c={(live.pan ?? live.oven)?.soon_c ?? null}
            notch_c={live.pan?.lift?.reads_c ?? live.oven?.out_c ?? null}
            notch={NOTCH[way]}
            system={system}
          />
        </section>
        <section aria-label="What to do now" className="order-1 min-w-0 lg:order-none">
          <div
            className={`flex items-center justify-between gap-3 lg:min-h-[6.3rem] across:min-h-0! ${urgent ? `px-4 py-1.5 ${toneOf(urgent)}` : ""}`}
          >
            <p role="status" className="figure text-[2.3rem] sm:text-[2.7rem] across:text-[1.6rem]!">
              {inUnits(live.say, system)}
            </p>
            {urgent && mayMark ? <Heard batch={batch} alarm={urgent} say={say} /> : null}
          </div>
          <ProbeAndLeft probe_c={live.probe_c} left={left} />
          <p className="mt-1 text-[1.4rem] font-bold">{inUnits(live.then, system)}</p>
          {before && mayMark ? (
            <Button
              look="solid"
              large
              className="mt-4"
              onClick={() => {
                for (const stage of toDo) say({ stage, kind: "done", note: "" });
              }}
            >
              {way === "sets" ? "The cups are in the oven" : "The mix is in the pan, heat on"}
            </Button>
          ) : null}
          {live.pan ? <Figures live={live} way={way} /> : null}
          {live.oven ? (
            <p className="mt-3 text-lg">
              A nudged cup now: <b>{live.oven.wobble}</b>. The bath must be about{" "}
              {temperature(live.oven.bath_c, system, 0)}.
            </p>
          ) : null}
          {live.learned ? (
            <p role="status" className="mt-3 border-l-4 border-slate pl-3 text-lg text-slate">
              {inUnits(live.learned, system)}
            </p>
          ) : null}
        </section>
        <section
          aria-label="Curve and signs"
          className="order-3 grid min-w-0 gap-x-6 gap-y-3 md:max-lg:col-span-2 md:max-lg:grid-cols-2 lg:order-none"
        >
          <LiveCurve
            past={live.past}
            ahead={(live.pan ?? live.oven)?.ahead ?? null}
            landing={live.pan?.landing ?? null}
            lift={live.pan?.lift ?? null}
            window={window}
            boiling_c={batch.plan.boiling_c}
            system={system}
          />
          {plan ? (
            <Signs
              batch={batch}
              plan={plan}
              waiting={outbox.waiting.flatMap((mark) =>
                mark.kind === "sign" && mark.what != null ? [mark.what] : [],
              )}
              mayMark={mayMark}
              say={say}
            />
          ) : null}
        </section>
      </div>
      <footer className="sticky bottom-(--strip) z-10 bg-milk px-4 pt-1 max-md:order-3 max-md:pb-2 sm:px-7 across:fixed across:inset-y-0 across:right-0 across:order-3 across:w-[46%] across:overflow-y-auto across:p-2">
        {live.pan && mayMark && way !== "mounds" ? <Hands batch={batch} say={say} /> : null}
        <Touches batch={batch} way={way} probe_c={live.probe_c} mayMark={mayMark} say={say} />
        <p className="sr-only">
          {awake ? "The screen stays on." : "This device may let its screen go dark."}
        </p>
      </footer>
    </div>
  );
}

interface HeadProps {
  batch: Batch;
  live: Live;
  lost: boolean;
  sound: ReturnType<typeof useSound>["sound"];
  onSound: () => void;
}

/** Which batch it is, on what, what its probe says, and the sound. */
function StoveHead({ batch, live, lost, sound, onSound }: HeadProps) {
  const here = useHere();
  return (
    <header className="flex flex-wrap items-center justify-between gap-x-6 gap-y-1 border-hair px-4 py-1.5 max-md:order-2 max-md:border-t sm:px-7 md:border-b across:order-2 across:border-t across:border-b-0">
      <h1 className="min-w-0 truncate text-[1.5rem]">{batch.name}</h1>
      <Facts
        className="text-soft"
        of={[
          `batch ${batch.number}`,
          batch.hob,
          batch.pan,
          batch.pace !== 1 && `rehearsal, ${batch.pace} times as fast`,
        ]}
      />
      <div className="flex flex-wrap items-center gap-2">
        <ProbeSays batch={batch} live={live} lost={lost} />
        <Button onClick={onSound} aria-label={`Sound: ${sound}`}>
          {sound === "silent" ? "silent" : sound === "beeps" ? "♪ beeps" : "♪ spoken"}
        </Button>
        <Link
          to={`/k/${here.slug}/stove/${batch.id}`}
          aria-label="leave the stove"
          className="flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
        >
          leave<span className="hidden sm:inline">&nbsp;the stove</span>
        </Link>
      </div>
    </header>
  );
}

/** What the probe reads, and how long until the next thing, in the largest type. */
function ProbeAndLeft({ probe_c, left }: { probe_c: number | null; left: number | null }) {
  const { system } = useUnits();
  return (
    <>
      <p className="figure mt-1 text-[6rem] leading-none sm:text-[8.5rem] across:text-[5rem]!">
        <span className="sr-only">The probe reads </span>
        {probe_c === null ? (
          "–"
        ) : (
          <>
            {temperature(probe_c, system).replace("°", "")}
            <span className="align-top text-[0.42em]">{system === "metric" ? "°C" : "°F"}</span>
          </>
        )}
      </p>
      {left === null ? null : (
        <p className="figure text-[4.2rem] leading-none text-copper sm:text-[6rem] across:text-[4rem]!">
          <span className="sr-only">Left </span>
          {minutes(left)}
        </p>
      )}
    </>
  );
}

/** What is known besides: how thick it is by now, the ring, the boil held, the foam. */
function Figures({ live, way }: { live: Live; way: Live["way"] }) {
  const { system } = useUnits();
  const pan = live.pan;
  if (!pan) return null;
  return (
    <div className="mt-3 flex items-center gap-4">
      {way === "mounds" ? null : <Spoon film={pan.spoon} size={92} />}
      <ul className="grid gap-0.5 text-lg text-soft">
        {way === "mounds" && pan.volume_ratio !== null ? (
          <li className="text-iron">
            <Facts
              inline
              of={[<b key="volume">{fixed(pan.volume_ratio, 1)} times the volume</b>, pan.foam_word]}
            />
          </li>
        ) : (
          <li>
            by now <b className="text-iron">{pan.word}</b>
          </li>
        )}
        {pan.held_s > 0 || way === "boils" ? (
          <li>
            boiled {minutes(pan.held_s)} of {minutes(pan.hold_s)}
          </li>
        ) : null}
        <li>
          rising {fixed(system === "metric" ? pan.rate_k_per_min : pan.rate_k_per_min * 1.8, 1)}° a minute
        </li>
        <li title={`${pan.power_w} W ± ${pan.power_spread_w}`}>
          {pan.from_readings ? "the flame is" : "the flame is taken to be"} <b>{heatOf(pan.power_w)}</b>
        </li>
      </ul>
    </div>
  );
}

/** Whether somebody stirs: nobody can see that but the cook, and the base is another without it. */
function Hands({ batch, say }: { batch: Batch; say: SayAs }) {
  const last = batch.marks.findLast((mark) => mark.kind === "hands-off" || mark.kind === "stirring");
  const off = last?.kind === "hands-off";
  const turn = () => say({ stage: "cook", kind: off ? "stirring" : "hands-off", note: "" });
  useKeys([{ press: "h", does: off ? "stirring again" : "hands off: nobody stirs", run: turn }]);
  return (
    <Button className="mb-2 w-full" look={off ? "danger" : "quiet"} aria-pressed={off} onClick={turn}>
      {off ? "Nobody stirs · touch when you stir again" : "Hands off for a moment"}
    </Button>
  );
}

function ProbeSays({ batch, live, lost }: { batch: Batch; live: Live; lost: boolean }) {
  const hearing = useHearing();
  const text = lost
    ? "no connection"
    : !batch.probe
      ? "no probe; put one in at Cook"
      : live.probe_ago_s === null
        ? `${batch.probe}: nothing yet`
        : live.probe_ago_s > 10
          ? `${batch.probe} silent for ${minutes(live.probe_ago_s)}`
          : `${batch.probe} steady`;
  return (
    <Facts
      className={lost || (live.probe_ago_s ?? 0) > 10 ? "text-brick" : "text-soft"}
      of={[text, !hearing && !lost && "asking"]}
    />
  );
}
