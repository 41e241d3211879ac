/** The longer side of a picture that is sent [pixels], and the most bytes of it. */
const SIDE = 2200;
const MOST_BYTES = 700_000;
const TRIES = [
  { scale: 1, quality: 0.85 },
  { scale: 1, quality: 0.7 },
  { scale: 0.8, quality: 0.6 },
  { scale: 0.6, quality: 0.5 },
];
const NO_PICTURE = "This browser cannot open this picture. Choose a JPEG or PNG.";

/** The size at which a picture is sent: at most so long, and never enlarged. */
export function sizeToSend(width: number, height: number, scale: number): [number, number] {
  const by = Math.min(1, SIDE / Math.max(width, height)) * scale;
  return [Math.max(1, Math.round(width * by)), Math.max(1, Math.round(height * by))];
}

/** A photograph small enough to send, as JPEG: it stands as it was taken, and holds nothing but the picture. */
export async function shrunk(file: File): Promise<Uint8Array> {
  const picture = await createImageBitmap(file, { imageOrientation: "from-image" }).catch(() => {
    throw new Error(NO_PICTURE);
  });
  try {
    for (const { scale, quality } of TRIES) {
      const [width, height] = sizeToSend(picture.width, picture.height, scale);
      const canvas = new OffscreenCanvas(width, height);
      const paper = canvas.getContext("2d");
      if (!paper) throw new Error(NO_PICTURE);
      paper.fillStyle = "white";
      paper.fillRect(0, 0, width, height);
      paper.drawImage(picture, 0, 0, width, height);
      const made = await canvas.convertToBlob({ type: "image/jpeg", quality });
      if (made.size <= MOST_BYTES) return new Uint8Array(await made.arrayBuffer());
    }
  } finally {
    picture.close();
  }
  throw new Error("This picture is too large to send. Photograph a part of the page.");
}
