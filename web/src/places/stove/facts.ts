import type { Live } from "../../api/live";
import type { Photo } from "../../api/photos";
import type { Batch } from "../../api/queries";
import type { RuleMark } from "../../drawings/Rule";
import { COLD, OFF } from "./ways";

/** Readings, marks and photographs, in seconds of the batch's own time since the first reading. */
export function recorded(live: Live, batch: Batch, photos: readonly Photo[]) {
  const first = live.past.ago_s[0] ?? 0;
  const now = new Date(live.at).getTime();
  const at_s = (iso: string) => ((new Date(iso).getTime() - now) / 1000) * live.pace - first;
  const shown = new Map([
    ["bubbles", "First bubbles"],
    ["off-heat", OFF[live.way]],
    ["into-ice", COLD[live.way]],
  ]);
  return {
    read: live.past.ago_s.map((t, i) => [t - first, live.past.c[i] ?? 0] as const),
    moments: batch.marks
      .filter((mark) => shown.has(mark.kind))
      .map((mark) => ({
        kind: mark.kind,
        at_s: at_s(mark.at),
        shown: shown.get(mark.kind)?.toLowerCase() ?? "",
      })),
    photos: photos.map((photo) => at_s(photo.at)),
  };
}

/** The temperature each stage was left at, riding on the Rule. */
export function typedMarks(batch: Batch): RuleMark[] {
  return batch.plan.stages.flatMap(({ stage, typed }) => {
    const last = typed && batch.marks.findLast((mark) => mark.stage === stage && mark.temperature_c !== null);
    if (!last || last.temperature_c === null) return [];
    return [{ at_c: last.temperature_c, label: typed, tone: "copper" as const }];
  });
}

/** The last mark that took it off the heat or put it back on. */
export function lastOff(batch: Batch): Batch["marks"][number] | undefined {
  return batch.marks.findLast((mark) => mark.kind === "off-heat" || mark.kind === "back-on");
}

const LOW_W = 400;
const MEDIUM_W = 1000;

/** What gets into the pan, as a cook says it; its watts stand among the kitchen's figures. */
export function heatOf(power_w: number): string {
  return power_w < LOW_W ? "low" : power_w < MEDIUM_W ? "medium" : "high";
}

/** Which version it is, and in what it differs from that. */
export function versionOf(batch: Pick<Batch, "version" | "changed">): string {
  const changed = batch.changed.length ? `, changed: ${batch.changed.join("; ")}` : "";
  return `version ${batch.version}${changed}`;
}
