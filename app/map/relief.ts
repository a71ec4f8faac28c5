import type ImageTileSource from "ol/source/ImageTile";
import ReliefWorker from "./relief.worker?worker";
import { RELIEF_SAMPLES } from "#wire";
import type { ReliefAnswer, ReliefRequest } from "./reliefTile";

/** Contour intervals by the ground metres of one pixel: about a finger apart on ordinary slopes. */
function contourInterval(pixelM: number): number {
  if (pixelM > 60) return 200;
  if (pixelM > 32) return 100;
  if (pixelM > 12) return 50;
  if (pixelM > 5) return 20;
  return 10;
}

/** A tile source that fetches heights from the plan's own terrain and shades them in a worker. */
export async function reliefSource(
  planId: string,
  version: string,
  dark: boolean,
  latDeg: number,
): Promise<{ source: ImageTileSource; stop: () => void }> {
  const { default: ImageTile } = await import("ol/source/ImageTile");
  const worker = new ReliefWorker();
  const waiting = new Map<number, (image: ImageBitmap) => void>();
  worker.onmessage = ({ data }: MessageEvent<ReliefAnswer>) => {
    waiting.get(data.id)?.(data.image);
    waiting.delete(data.id);
  };
  let empty: Promise<ImageBitmap> | null = null;
  let counter = 0;
  const source = new ImageTile({
    maxZoom: 16,
    tileSize: 256,
    loader: async (z, x, y, { signal }) => {
      const response = await fetch(`/plans/${planId}/relief/${z}/${x}/${y}?v=${version}`, { signal: signal ?? null });
      if (!response.ok) throw new Error(`relief tile ${z}/${x}/${y}: ${response.status}`);
      if (response.status === 204)
        return (empty ??= createImageBitmap(new ImageData(RELIEF_SAMPLES - 2, RELIEF_SAMPLES - 2)));
      const buffer = await response.arrayBuffer();
      const pixelM = (40_075_017 * Math.cos((latDeg * Math.PI) / 180)) / (256 * 2 ** z);
      const id = counter++;
      return new Promise<ImageBitmap>((resolve) => {
        waiting.set(id, resolve);
        worker.postMessage(
          { id, buffer, dark, contourIntervalM: contourInterval(pixelM), pixelM } satisfies ReliefRequest,
          [buffer],
        );
      });
    },
  });
  return { source, stop: () => worker.terminate() };
}
