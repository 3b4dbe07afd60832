import { isFocusWhole, isReadable } from '../canvas'
import {
  type CanvasName,
  canvasNames,
  nativeSizeOf,
  type Scene,
  type Show,
  type Source,
  otherCanvas,
} from '../show'

export type DifferenceKind =
  | 'on one canvas only'
  | 'words unreadable on one'
  | 'goal hidden'
  | 'focus cut on one'
  | 'captions differ'

/** One way in which the two canvases of a scene do not say the same. */
export interface CanvasDifference {
  kind: DifferenceKind
  /** The layers it is about. */
  layerIds: string[]
  /** The canvas on which something is missing or worse. */
  canvas: CanvasName
  words: string
}

/** Words as a viewer compares them: case, spaces and marks at the ends do not count. */
const spoken = (text: string): string =>
  text
    .toLocaleLowerCase('en')
    .replaceAll(/[\p{P}\s]+/gu, ' ')
    .trim()

/** What differs between the two canvases of a scene, in front-to-back order. A shared vertical is not compared: it is another scene's. */
export function matchCheck(
  show: Pick<Show, 'canvasPair' | 'sources'>,
  scene: Scene,
): CanvasDifference[] {
  if (scene.verticalOf !== null) return []
  const sources = new Map(show.sources.map((source) => [source.id, source]))
  const items = scene.layers.flatMap((layer) => {
    const source = sources.get(layer.sourceId)
    return source ? [{ layer, source }] : []
  })
  const differences = items.flatMap(({ layer, source }): CanvasDifference[] =>
    canvasNames.flatMap((canvas) => {
      const [here, there] = [layer[canvas], layer[otherCanvas[canvas]]]
      const difference = (kind: DifferenceKind, words: string): CanvasDifference => ({
        kind,
        layerIds: [layer.id],
        canvas,
        words: `${source.name} ${words}`,
      })
      if (!there.shown) return []
      if (!here.shown) {
        // The same source may stand in the scene twice, once a canvas.
        const standsElsewhere = items.some(
          (item) => item.source === source && item.layer[canvas].shown,
        )
        if (standsElsewhere) return []
        return source.kind === 'goal bar'
          ? [difference('goal hidden', `is hidden on ${canvas}; viewers there see no goal`)]
          : [difference('on one canvas only', `is on ${otherCanvas[canvas]} only`)]
      }
      const found: CanvasDifference[] = []
      const isLegible = (name: CanvasName): boolean =>
        isReadable(layer[name], source, show.canvasPair[name])
      if (!isLegible(canvas) && isLegible(otherCanvas[canvas]))
        found.push(difference('words unreadable on one', `is too small to read on ${canvas} only`))
      const isWhole = (name: CanvasName): boolean =>
        isFocusWhole(source.focus, nativeSizeOf(source), layer[name].trim)
      if (!isWhole(canvas) && isWhole(otherCanvas[canvas]))
        found.push(difference('focus cut on one', `is trimmed into its focus on ${canvas} only`))
      return found
    }),
  )
  return [...differences, ...captionDifferences(items)]
}

/** A caption on one canvas only, beside another on the other canvas that says something else. */
function captionDifferences(
  items: readonly { layer: Scene['layers'][number]; source: Source }[],
): CanvasDifference[] {
  const captions = items.flatMap(({ layer, source }) =>
    source.appearance.type === 'text'
      ? [{ layer, name: source.name, text: source.appearance.text }]
      : [],
  )
  const only = (canvas: CanvasName) =>
    captions.filter(({ layer }) => layer[canvas].shown && !layer[otherCanvas[canvas]].shown)
  return only('landscape').flatMap((wide) =>
    only('vertical').flatMap((tall): CanvasDifference[] =>
      spoken(wide.text) === spoken(tall.text)
        ? []
        : [
            {
              kind: 'captions differ',
              layerIds: [wide.layer.id, tall.layer.id],
              canvas: 'vertical',
              words: `“${wide.text}” on landscape is “${tall.text}” on vertical`,
            },
          ],
    ),
  )
}
