import type { ReactNode } from "react";
import { useHere } from "../api/here";
import { addressOfPicture } from "../api/pictures";

/** The photograph of a recipe; touched, it opens in its full size. */
export function PictureOf({ id, children }: { id: string; children?: ReactNode }) {
  const here = useHere();
  const address = addressOfPicture(here.slug, id);
  return (
    <figure className="mt-2">
      <a href={address} target="_blank" rel="noreferrer" className="block border border-hair bg-paper">
        <img
          src={address}
          alt="The photograph of the recipe, as it was taken"
          className="mx-auto max-h-[45vh] w-full object-contain"
        />
      </a>
      <figcaption className="mt-1 text-sm text-soft">Touch it to see it in full size. {children}</figcaption>
    </figure>
  );
}
