import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { base64 } from "./base64";
import { client, type Schemas, unwrap } from "./client";
import { shrunk } from "./shrunk";

export type Picture = Schemas["PictureOut"];
/** A picture that was read. */
export interface ReadPicture {
  id: string;
  text: string;
  doubtful: readonly string[];
}

const LOOK_EVERY_MS = 700;
/** A worker that has not read it by then is not there, or has too much to do. */
const PATIENCE_MS = 180_000;
const NOBODY_READS = "Nothing has read this picture yet: the kitchen’s worker may not be running. Try again.";

/** What is done with a picture, for whoever waits. */
const STEPS: Record<Picture["step"], string> = {
  waiting: "Waiting to be read …",
  turning: "Finding which way up it is …",
  reading: "Reading the words …",
  read: "Read.",
  refused: "",
};

export const addressOfPicture = (kitchen: string, id: string) => `/api/k/${kitchen}/pictures/${id}/image`;

/** Whether pictures are read here, and what to install where they are not. */
export function usePictureReading(kitchen: string) {
  return useQuery({
    queryKey: ["picture-reading", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/pictures", { params: { path: { kitchen } }, signal })),
    staleTime: 60_000,
  });
}

const isOver = (picture: Picture | undefined) => picture?.step === "read" || picture?.step === "refused";

/** Sends a photograph, and asks until a worker has read it; whoever leaves the page asks no more. */
export function usePhotograph(kitchen: string, onRead: (picture: ReadPicture) => void) {
  const send = useMutation({
    mutationFn: async (file: File) => {
      const content = base64(await shrunk(file));
      return unwrap(
        client.POST("/api/k/{kitchen}/pictures", { params: { path: { kitchen } }, body: { content } }),
      );
    },
  });
  const picture_id = send.data?.id ?? "";
  const late = () => Date.now() - send.submittedAt > PATIENCE_MS;
  const picture = useQuery({
    queryKey: ["picture", kitchen, picture_id],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/pictures/{picture_id}", {
          params: { path: { kitchen, picture_id } },
          signal,
        }),
      ),
    enabled: picture_id !== "",
    refetchInterval: ({ state }) => (isOver(state.data) || late() ? false : LOOK_EVERY_MS),
  });
  const { data } = picture;
  const handed = useRef("");
  useEffect(() => {
    if (data?.text == null || handed.current === data.id) return;
    handed.current = data.id;
    onRead({ id: data.id, text: data.text, doubtful: data.doubtful });
  }, [data, onRead]);
  const given = picture_id !== "" && !isOver(data) && late();
  return {
    send: send.mutate,
    isPending: send.isPending || (picture_id !== "" && !isOver(data) && !given && !picture.isError),
    step: send.isPending ? "Sending it …" : STEPS[data?.step ?? "waiting"],
    error: send.error?.message ?? picture.error?.message ?? (given ? NOBODY_READS : data?.refused),
  };
}
