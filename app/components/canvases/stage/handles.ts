import type { CanvasName, Layer } from '@green-mantle/core/show'
import type Konva from 'konva'
import { computed, nextTick, type Ref, watch } from 'vue'
import { useSelectionStore } from '~/stores/selection'

interface Point {
  x: number
  y: number
}

interface HandleOptions {
  /** Screen pixels a canvas pixel takes. */
  scale: () => number
  /** Whether the canvas shows another scene's arrangement, which is altered there. */
  isShared: Readonly<Ref<boolean>>
  transformer: () => Konva.Transformer | undefined
  /** Changes when the stage is made anew. */
  stage: () => unknown
  /** Where a handle drawn to a point of the canvas is held, by what it snaps to. */
  hold: (handle: string, point: Point, event: MouseEvent) => Point
}

/** The handles about what is chosen on a canvas, to resize and turn it; a locked or hidden one has none. */
export function useHandles(
  canvas: CanvasName,
  { scale, isShared, transformer, stage, hold }: HandleOptions,
) {
  const selection = useSelectionStore()
  const colour = canvas === 'landscape' ? '#1f6f86' : '#8a3f79'

  const config = computed(() => ({
    rotateEnabled: true,
    rotateAnchorOffset: 22,
    rotationSnaps: [0, 90, 180, 270],
    keepRatio: true,
    shiftBehavior: 'inverted',
    ignoreStroke: true,
    flipEnabled: false,
    anchorSize: 9,
    anchorFill: '#fffdf6',
    anchorStroke: colour,
    anchorStrokeWidth: 2,
    anchorCornerRadius: 2,
    borderStroke: colour,
    borderStrokeWidth: 2,
    anchorDragBoundFunc: (_before: Point, after: Point, event: MouseEvent): Point => {
      const name = transformer()?.getActiveAnchor() ?? ''
      const held = hold(name, { x: after.x / scale(), y: after.y / scale() }, event)
      return { x: held.x * scale(), y: held.y * scale() }
    },
  }))

  const hasHandles = (layer: Layer): boolean =>
    selection.isChosen(layer.id) && layer[canvas].shown && !layer[canvas].locked

  async function attach(): Promise<void> {
    await nextTick()
    const node = transformer()
    const owners = isShared.value ? [] : selection.scene.layers.filter(hasHandles)
    node?.nodes(owners.flatMap(({ id }) => node.getStage()?.findOne(`#${id}`) ?? []))
  }
  watch(
    () => [
      selection.scene.layers
        .filter(hasHandles)
        .map(({ id }) => id)
        .join(),
      selection.scene.id,
      isShared.value,
      stage(),
    ],
    attach,
    { immediate: true, flush: 'post' },
  )

  return config
}
