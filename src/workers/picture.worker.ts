import { lighten } from "@/core/pictures/lighten";
import { straighten, turn, type Corners } from "@/core/pictures/perspective";

/** A page made from a photo: cut to its four corners, turned, lightened. A thin shell around the core. */
export type PictureJob = {
  bitmap: ImageBitmap;
  corners: Corners | null;
  quarters: number;
  lighter: boolean;
};

addEventListener("message", (event: MessageEvent<PictureJob>) => {
  const { bitmap, corners, quarters, lighter } = event.data;
  void (async () => {
    try {
      const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
      const context = canvas.getContext("2d", { willReadFrequently: true })!;
      context.drawImage(bitmap, 0, 0);
      const { data, width, height } = context.getImageData(0, 0, bitmap.width, bitmap.height);
      bitmap.close();
      const cut = corners ? straighten({ data, width, height }, corners) : { data, width, height };
      const made = lighter ? lighten(turn(cut, quarters)) : turn(cut, quarters);
      const out = new OffscreenCanvas(made.width, made.height);
      out
        .getContext("2d")!
        .putImageData(
          new ImageData(made.data as Uint8ClampedArray<ArrayBuffer>, made.width, made.height),
          0,
          0,
        );
      postMessage({ blob: await out.convertToBlob({ type: "image/jpeg", quality: 0.88 }) });
    } catch {
      postMessage({
        problem: "This photo could not be changed on this device. It stays as it was.",
      });
    }
  })();
});
