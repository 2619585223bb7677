const SIDE = 48;

/** A picture file as a small square PNG, as data URL: a profile carries it with it. "" where it is no picture. */
export async function pictureOf(file: File): Promise<string> {
  let image: ImageBitmap;
  try {
    image = await createImageBitmap(file);
  } catch {
    return "";
  }
  const canvas = document.createElement("canvas");
  canvas.width = SIDE;
  canvas.height = SIDE;
  const scale = Math.max(SIDE / image.width, SIDE / image.height);
  const [width, height] = [image.width * scale, image.height * scale];
  canvas.getContext("2d")?.drawImage(image, (SIDE - width) / 2, (SIDE - height) / 2, width, height);
  return canvas.toDataURL("image/png");
}
