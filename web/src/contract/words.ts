/** The words of the product that code tells apart, as the contract lists them: each is written once, in Python. */
import type { components } from "./schema";

type Schemas = components["schemas"];

export type EggClass = Schemas["KitchenOut"]["eggs"];
export type Measures = Schemas["KitchenOut"]["measures"];
export type CoolingRuleName = Schemas["KitchenOut"]["cooling_rule"];
export type PanKind = Schemas["PanOut"]["kind"];
export type Coat = Schemas["Coat"];
export type FamilyName = Schemas["Draft"]["family"];
export type FingerLine = Schemas["FingerLine"];
export type Laid = Schemas["Laid"];
export type MarkKind = Schemas["MarkKind"];
export type Need = Schemas["Need"];
export type Ribbon = Schemas["Ribbon"];
export type Role = Schemas["Role"];
export type SieveFound = Schemas["SieveFound"];
export type StageName = Schemas["StageName"];
export type Verdict = Schemas["Verdict"];
export type VesselKind = Schemas["VesselKind"];
export type WayName = Schemas["WayName"];
export type When = Schemas["When"];
export type Wobble = Schemas["Wobble"];

export {
  coatValues as COATS,
  draftFamilyValues as FAMILIES,
  fingerLineValues as FINGER_LINES,
  needValues as NEEDS,
  panOutKindValues as PAN_KINDS,
  ribbonValues as RIBBONS,
  sieveFoundValues as SIEVES,
  stageNameValues as STAGES,
  verdictValues as VERDICTS,
  vesselKindValues as VESSEL_KINDS,
  whenValues as WHENS,
  wobbleValues as WOBBLES,
} from "./schema";
