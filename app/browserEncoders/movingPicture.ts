/** So many pictures are shown in turn: making one a frame would be measured too. */
const pictureCount = 12

/** Pictures of things that move and turn over a grain, so that an encoder has something to do. Closed by who asked. */
export function movingPicture({ width, height }: { width: number; height: number }): VideoFrame[] {
  const canvas = new OffscreenCanvas(width, height)
  const drawing = canvas.getContext('2d', { willReadFrequently: true })
  if (!drawing) throw new Error('This browser draws nothing outside the page.')
  const grain = drawing.createImageData(width, height)
  let seed = 1
  return Array.from({ length: pictureCount }, (_, index) => {
    for (let at = 0; at < grain.data.length; at += 4) {
      seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) | 0
      const shade = 96 + ((seed >>> 24) & 31) + (at % (width * 4)) / (width / 16)
      grain.data.set([shade, shade + 8, shade - 8, 255], at)
    }
    drawing.putImageData(grain, 0, 0)
    for (let thing = 0; thing < 8; thing += 1) {
      const turn = (index / pictureCount + thing / 8) * 2 * Math.PI
      drawing.fillStyle = `hsl(${thing * 45} 70% 50%)`
      const reach = height / 3
      drawing.fillRect(
        width / 2 + Math.cos(turn) * reach * 1.4 - height / 12,
        height / 2 + Math.sin(turn * 2) * reach - height / 12,
        height / 6,
        height / 6,
      )
    }
    return new VideoFrame(canvas, { timestamp: index })
  })
}
