import createClient, { type Middleware } from "openapi-fetch";
import { NO_CONNECTION, Problem, problemOf } from "./problem";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

function csrfToken(): string {
  return /(?:^|;\s*)csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

const withToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: "" });
client.use(withToken);

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer; throws a Problem for a refusal or when the server was not reached. */
export async function told<T>(asked: Promise<Answer<T>>): Promise<T> {
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
