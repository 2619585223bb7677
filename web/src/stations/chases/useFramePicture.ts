import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";

export type Chase = Schemas["ChaseView"];

/** Where a drawn picture is fetched from; its name is of what is drawn, so it never becomes another. */
export const pictureUrl = (chase: string, picture: string): string =>
  `/api/chases/${chase}/pictures/${picture}`;

/** The colours of a drawn picture, a pixel for each square; undefined while it comes. */
export function useFramePicture(chase: Chase, picture: string | undefined): ImageData | undefined {
  const { data } = useQuery({
    queryKey: ["drawn", chase.id, picture],
    queryFn: async () => {
      const fetched = await fetch(pictureUrl(chase.id, picture ?? ""));
      if (!fetched.ok) throw new Error("That picture is not there any more.");
      const bitmap = await createImageBitmap(await fetched.blob(), {
        premultiplyAlpha: "none",
        colorSpaceConversion: "none",
      });
      const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
      const context = canvas.getContext("2d");
      if (!context) throw new Error("Pictures cannot be read here.");
      context.drawImage(bitmap, 0, 0);
      return context.getImageData(0, 0, bitmap.width, bitmap.height);
    },
    enabled: picture !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before) => before,
    retry: false,
  });
  return data && data.width === chase.columns && data.height === chase.rows ? data : undefined;
}
