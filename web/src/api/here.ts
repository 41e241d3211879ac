import { useOutletContext } from "react-router";
import type { Schemas } from "./client";

/** The kitchen one is in, handed down by the shell. */
export type Here = Schemas["KitchenOut"];

/** A kitchen's own cooling rule. */
export type OwnRule = NonNullable<Here["own_rule"]>;

export const useHere = () => useOutletContext<Here>();
