import { useQuery } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";

export type WallBatch = Schemas["WallBatch"];
export type WallDay = Schemas["WallDay"];

const KEY = "old-spoon:wall";
const STOVE_EVERY_MS = 2000;
const DAY_EVERY_MS = 30_000;

/** The code this screen was opened with; "" where it never was. */
export function keptCode(): string {
  try {
    return localStorage.getItem(KEY) ?? "";
  } catch {
    return "";
  }
}

export function keepCode(code: string): void {
  try {
    localStorage.setItem(KEY, code);
  } catch {
    // Not kept; the wall is shown until this page is closed.
  }
}

/** A code as it is kept, however it was typed. */
export const plainCode = (typed: string) => typed.toUpperCase().replace(/[^A-Z0-9]/g, "");

/** A code as it is read and typed: in groups of four. */
export const spacedCode = (code: string) => code.replace(/(.{4})(?=.)/g, "$1 ");

const by = (code: string) => ({ headers: { Authorization: `Bearer ${code}` } });

/** What is on the stove. Whatever goes wrong, it is asked again: nobody touches a wall. */
export function useWallStove(code: string) {
  return useQuery({
    queryKey: ["wall", code],
    queryFn: ({ signal }) => unwrap(client.GET("/api/wall", { signal, ...by(code) })),
    enabled: code !== "",
    retry: false,
    refetchInterval: STOVE_EVERY_MS,
    refetchIntervalInBackground: true,
  });
}

/** What is next, and what must go today. */
export function useWallDay(code: string) {
  return useQuery({
    queryKey: ["wall", code, "day"],
    queryFn: ({ signal }) => unwrap(client.GET("/api/wall/day", { signal, ...by(code) })),
    retry: false,
    refetchInterval: DAY_EVERY_MS,
    refetchIntervalInBackground: true,
  });
}
