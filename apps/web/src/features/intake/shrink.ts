const LONGEST = 2000;

/** Scales a photograph down in the browser before it is sent; other files go as they are. */
export async function shrunk(file: File): Promise<Blob> {
  if (!file.type.startsWith('image/')) return file;
  try {
    const picture = await createImageBitmap(file);
    const factor = Math.min(1, LONGEST / Math.max(picture.width, picture.height));
    if (factor === 1 && file.size < 1_500_000) return file;
    const canvas = document.createElement('canvas');
    canvas.width = Math.round(picture.width * factor);
    canvas.height = Math.round(picture.height * factor);
    canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
    return await new Promise<Blob>((resolve) => canvas.toBlob((b) => resolve(b ?? file), 'image/jpeg', 0.85));
  } catch {
    return file;
  }
}
