/**
 * A picture no larger than it need be, made on the device before it is sent: upright, its longest side at most `most`
 * pixels, JPEG. What the browser cannot read (HEIC in most) goes as it is; the server reads it.
 */
export async function scalePicture(file: File, most = 2400): Promise<{ blob: Blob; name: string }> {
  const asItIs = { blob: file as Blob, name: file.name || "photo.jpg" };
  if (!/^image\/(jpeg|png|webp)$/.test(file.type)) return asItIs;
  try {
    const picture = await createImageBitmap(file, { imageOrientation: "from-image" });
    const scale = Math.min(1, most / Math.max(picture.width, picture.height));
    if (scale === 1 && file.size < 1_500_000) return asItIs;
    const canvas = document.createElement("canvas");
    canvas.width = Math.round(picture.width * scale);
    canvas.height = Math.round(picture.height * scale);
    canvas.getContext("2d")!.drawImage(picture, 0, 0, canvas.width, canvas.height);
    picture.close();
    const blob = await new Promise<Blob | null>((resolve) =>
      canvas.toBlob(resolve, "image/jpeg", 0.88),
    );
    return blob && blob.size < file.size
      ? { blob, name: asItIs.name.replace(/\.\w{1,5}$/, "") + ".jpg" }
      : asItIs;
  } catch {
    return asItIs;
  }
}
