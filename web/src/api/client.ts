import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "../contract/schema";
import { heard, notHeard } from "./contact";
import { NO_CONNECTION, Problem, problemOf } from "./problem";

export type Schemas = components["schemas"];

function csrfToken(): string {
  return /(?:^|;\s*)csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

const inContact: Middleware = {
  onResponse: ({ response }) => {
    heard(response);
  },
  onError: ({ error }) => {
    if (!(error instanceof DOMException && error.name === "AbortError")) notHeard();
  },
};

const withToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
};

/** So often a question that was refused because much is computed just now is asked again. */
const AGAIN_AT_MOST = 3;

/** Asks, and asks again after the time that a busy server names; whatever else comes back is the answer. */
export async function patiently(request: Request, ask: typeof fetch = fetch): Promise<Response> {
  for (let tries = 0; ; tries++) {
    const answer = await ask(request.clone());
    if (tries === AGAIN_AT_MOST || !(await isBusy(answer))) return answer;
    const seconds = Number(answer.headers.get("Retry-After") ?? 1);
    // Not all at the same moment.
    await new Promise((done) => setTimeout(done, seconds * 1000 * (1 + Math.random() / 2)));
  }
}

async function isBusy(answer: Response): Promise<boolean> {
  if (answer.status !== 429 && answer.status !== 503) return false;
  return (
    problemOf(
      await answer
        .clone()
        .json()
        .catch(() => null),
      answer.status,
    ).kind === "busy"
  );
}

export const client = createClient<paths>({ baseUrl: "", fetch: (request) => patiently(request) });
client.use(withToken, inContact);

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer; throws a Problem for a refusal or when the server was not reached. */
export async function unwrap<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await asked;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new Problem(0, NO_CONNECTION);
  }
  if (answer.data !== undefined) return answer.data;
  if (answer.response.status === 204) return undefined as T;
  throw problemOf(answer.error, answer.response.status);
}
