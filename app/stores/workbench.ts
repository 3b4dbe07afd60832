import { viewsOf } from '@green-mantle/core/canvas'
import {
  type CanvasName,
  canvasNames,
  type CoverZone,
  type ViewingMode,
} from '@green-mantle/core/show'
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { useShowStore } from './show'

/** A destination's viewing app laid over a canvas. */
export interface View {
  destinationId: string
  name: string
  mode: ViewingMode
  zones: CoverZone[]
}

const keyOf = ({ destinationId, mode }: Pick<View, 'destinationId' | 'mode'>): string =>
  `${destinationId} ${mode}`

/** How the canvases are looked at. It belongs to the person at this browser, not to the show. */
export const useWorkbenchStore = defineStore('workbench', () => {
  const store = useShowStore()
  const snaps = useLocalStorage('green-mantle.snaps', true)
  const showsSafeAreas = useLocalStorage('green-mantle.safe-areas', false)
  /** Whether moving sources move. */
  const isPlaying = ref(false)
  /** Takes the next press on the canvas as the colour to key out. */
  const picksKeyFor = ref<string>()
  /** The view wanted on each canvas; what it names may be gone by now. */
  const wanted = ref<Record<CanvasName, string>>({ landscape: '', vertical: '' })

  const viewsOn = (canvas: CanvasName): View[] =>
    store.show.destinations
      .filter((destination) => destination.canvas === canvas && destination.on)
      .flatMap((destination) => {
        const modes = new Set(viewsOf(destination).map(({ mode }) => mode))
        return [...modes].flatMap((mode): View[] => {
          const zones = destination.coverZones.filter((zone) => zone.mode === mode)
          const { id: destinationId, name } = destination
          return zones.length > 0 ? [{ destinationId, name, mode, zones }] : []
        })
      })

  /** The views there are on each canvas; only those that cover something. */
  const views = computed(() => ({
    landscape: viewsOn('landscape'),
    vertical: viewsOn('vertical'),
  }))
  const shown = computed(
    () =>
      Object.fromEntries(
        canvasNames.map((canvas) => [
          canvas,
          wanted.value[canvas] === 'none'
            ? undefined
            : (views.value[canvas].find((view) => keyOf(view) === wanted.value[canvas]) ??
              views.value[canvas][0]),
        ]),
      ) as Record<CanvasName, View | undefined>,
  )

  /** Lays another view over a canvas; undefined takes it off. */
  function show(canvas: CanvasName, view: View | undefined): void {
    wanted.value[canvas] = view ? keyOf(view) : 'none'
  }

  return { snaps, showsSafeAreas, isPlaying, picksKeyFor, views, shown, show, keyOf }
})
