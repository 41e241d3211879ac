import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
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

/** Sends a photograph and waits until it is read; `step` says how far it is. */
export function usePhotograph(kitchen: string) {
  const [step, setStep] = useState("");
  const reading = useMutation({
    mutationFn: async (file: File): Promise<ReadPicture> => {
      setStep("Making it smaller …");
      const content = base64(await shrunk(file));
      setStep("Sending it …");
      const path = { kitchen };
      const ends = Date.now() + PATIENCE_MS;
      let picture = await unwrap(
        client.POST("/api/k/{kitchen}/pictures", { params: { path }, body: { content } }),
      );
      while (picture.text === null) {
        if (picture.step === "refused") throw new Error(picture.refused);
        if (Date.now() > ends) throw new Error(NOBODY_READS);
        setStep(STEPS[picture.step]);
        await new Promise((done) => setTimeout(done, LOOK_EVERY_MS));
        picture = await unwrap(
          client.GET("/api/k/{kitchen}/pictures/{picture_id}", {
            params: { path: { ...path, picture_id: picture.id } },
          }),
        );
      }
      return { id: picture.id, text: picture.text, doubtful: picture.doubtful };
    },
    onSettled: () => setStep(""),
  });
  return { ...reading, step };
}
