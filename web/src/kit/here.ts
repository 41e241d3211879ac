import { useOutletContext } from "react-router";

/** A kitchen's own cooling rule. */
export interface OwnRule {
  from_c: number;
  first_c: number;
  first_h: number;
  second_c: number;
  second_h: number;
}

/** The kitchen one is in, handed down by the shell. */
export interface Here {
  slug: string;
  name: string;
  role: "viewer" | "cook" | "chef";
  altitude_m: number;
  eggs: string;
  measures: string;
  cooling_rule: string;
  cooling_caution: string;
  own_rule: OwnRule | null;
  cooling_text: string;
  currency: string;
  zone: string;
  readings_days: number;
  prices: Record<string, { price: number; per: string; per_kg: number }>;
  water_boils_c: number;
  demo: boolean;
}

export const useHere = () => useOutletContext<Here>();
