/** Longer side of a kept photograph, px. */
const LONGEST_PX = 1280
/** Tried one after the other until the picture is small enough. */
const QUALITIES = [0.8, 0.6, 0.4, 0.2]
/** A file beyond this is not even opened, bytes. */
const MOST_FILE_BYTES = 60_000_000

const asJpeg = (canvas: HTMLCanvasElement, quality: number): Promise<Blob | null> =>
  new Promise((made) => canvas.toBlob(made, 'image/jpeg', quality))

/** Bytes in base64, without what a data URL says before them. */
function base64(blob: Blob): Promise<string> {
  return new Promise((read) => {
    const reader = new FileReader()
    reader.onload = () => read(String(reader.result).replace(/^data:[^,]*,/, ''))
    reader.readAsDataURL(blob)
  })
}

/**
 * A picture scaled down, as a JPEG in base64; what the camera wrote beside it, its position too, is gone.
 * @param most bytes of the JPEG
 * @returns null where the file is no picture that the browser can read
 */
export async function scaledJpeg(file: Blob, most: number): Promise<string | null> {
  if (file.size > MOST_FILE_BYTES) return null
  const picture = await createImageBitmap(file).catch(() => null)
  if (!picture) return null
  const scale = Math.min(1, LONGEST_PX / Math.max(picture.width, picture.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(picture.width * scale))
  canvas.height = Math.max(1, Math.round(picture.height * scale))
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  for (const quality of QUALITIES) {
    const jpeg = await asJpeg(canvas, quality)
    if (jpeg && jpeg.size <= most) return base64(jpeg)
  }
  return null
}
