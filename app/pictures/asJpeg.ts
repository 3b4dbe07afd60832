/** From the best that is worth its bytes down to what still looks like a photograph. */
const qualities = [0.92, 0.85, 0.75, 0.65, 0.5] as const

/** A canvas as JPEG at the best quality that stays within a size; at the last where none does. */
export async function asJpegUpTo(canvas: HTMLCanvasElement, mostBytes: number): Promise<Blob> {
  let picture: Blob | null = null
  for (const quality of qualities) {
    picture = await new Promise<Blob | null>((resolve) =>
      canvas.toBlob(resolve, 'image/jpeg', quality),
    )
    if (picture && picture.size <= mostBytes) break
  }
  if (!picture) throw new Error('The browser could not write the picture.')
  return picture
}
