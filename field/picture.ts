/** Longest side of a kept picture, pixels: a label is legible, and a hundred of them fit on a phone. */
const LONGEST_PX = 1600;

/** A picture as a small JPEG. Throws for what the browser cannot read as one. */
export async function smallPicture(file: Blob): Promise<{ blob: Blob; widthPx: number; heightPx: number }> {
  const image = await createImageBitmap(file);
  const scale = Math.min(1, LONGEST_PX / Math.max(image.width, image.height));
  const [widthPx, heightPx] = [
    Math.max(1, Math.round(image.width * scale)),
    Math.max(1, Math.round(image.height * scale)),
  ];
  const canvas = document.createElement("canvas");
  Object.assign(canvas, { width: widthPx, height: heightPx });
  canvas.getContext("2d")!.drawImage(image, 0, 0, widthPx, heightPx);
  image.close();
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, "image/jpeg", 0.8));
  if (!blob) throw new Error("no picture came of it");
  return { blob, widthPx, heightPx };
}
