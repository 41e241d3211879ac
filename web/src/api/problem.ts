import { habits } from "../kit/habits";
import { inUnits } from "../kit/units";

/** What the server refuses with: a sentence, and a sentence by each field it is about. */
export interface ProblemBody {
  type: string;
  title: string;
  status: number;
  detail: string;
  fields: { field: string; message: string }[];
}

/** A refusal, or a request that never arrived (status 0). */
export class Problem extends Error {
  /** Each sentence as the person reads figures. */
  readonly fields: ProblemBody["fields"];

  constructor(
    readonly status: number,
    detail: string,
    readonly kind = "about:blank",
    fields: ProblemBody["fields"] = [],
  ) {
    super(inUnits(detail, habits().units));
    this.fields = fields.map((one) => ({ ...one, message: inUnits(one.message, habits().units) }));
  }

  /** The request did not reach the server, or the server is not up: it may be sent again. */
  get away(): boolean {
    return this.status === 0 || this.status === 502 || this.status === 503 || this.status === 504;
  }

  at(field: string): string | undefined {
    return this.fields.find((found) => found.field === field)?.message;
  }

  /** The whole sentence, unless all it is about is told by fields that begin with one of these names. */
  beside(...shown: string[]): string | undefined {
    const named = (field: string) => shown.some((name) => field.startsWith(name));
    return this.fields.length > 0 && this.fields.every((found) => named(found.field))
      ? undefined
      : this.message;
  }

  /** The first message at or below a path: "lines[2]" finds "lines[2].amount". */
  below(path: string): string | undefined {
    return this.fields.find((found) => found.field === path || found.field.startsWith(`${path}.`))?.message;
  }
}

export const NO_CONNECTION = "No connection to the kitchen's server. What you typed is still here.";

export function problemOf(body: unknown, status: number): Problem {
  const found = body as Partial<ProblemBody> | undefined;
  if (found && typeof found.detail === "string") {
    return new Problem(status, found.detail, found.type, found.fields ?? []);
  }
  return new Problem(status, "The server answered with something we cannot read. Try again.");
}
