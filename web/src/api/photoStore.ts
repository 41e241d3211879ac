/**
 * Photographs that wait on this device until the kitchen has them, under the person who took them.
 *
 * They are too large for where marks wait, so they lie in a cache of their own; where the browser has none, as over
 * plain HTTP, they live as long as the page.
 */
import type { StageName } from "../contract/words";

const STORE = "photographs-to-send";

/** A photograph made ready to be sent: its JPEG, and where and when it was taken. */
export interface WaitingPhoto {
  id: string;
  stage: StageName;
  at: string;
  picture: Blob;
}

const unstored = new Map<string, WaitingPhoto>();

/** Under what the photographs of a person in a batch wait. */
export const placeOf = (kitchen: string, person: string, batch_id: number) =>
  `/waiting/${kitchen}/${encodeURIComponent(person)}/${batch_id}/`;

async function opened(): Promise<Cache | null> {
  if (typeof caches === "undefined") return null;
  return caches.open(STORE).catch(() => null);
}

/** Keep a photograph until it is sent. */
export async function keep(place: string, photo: WaitingPhoto): Promise<void> {
  const { id, stage, at, picture } = photo;
  const store = await opened();
  const headers = { "X-Stage": stage, "X-At": at };
  const kept = store?.put(place + id, new Response(picture, { headers }));
  await (kept ?? Promise.reject()).catch(() => unstored.set(place + id, photo));
}

/** What waits, the oldest first. */
export async function waiting(place: string): Promise<WaitingPhoto[]> {
  const store = await opened();
  const found = [...unstored].flatMap(([key, photo]) => (key.startsWith(place) ? [photo] : []));
  for (const request of (await store?.keys()) ?? []) {
    const { pathname } = new URL(request.url);
    const answer = pathname.startsWith(place) ? await store?.match(request) : undefined;
    if (!answer) continue;
    found.push({
      id: pathname.slice(place.length),
      stage: answer.headers.get("X-Stage") as StageName,
      at: answer.headers.get("X-At") ?? "",
      picture: await answer.blob(),
    });
  }
  return found.sort((one, other) => one.at.localeCompare(other.at));
}

/** It arrived, or is not wanted any more. */
export async function forget(place: string, id: string): Promise<void> {
  unstored.delete(place + id);
  const store = await opened();
  await store?.delete(place + id);
}
