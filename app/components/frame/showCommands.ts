import { useRouter } from 'vue-router'
import { type Command, offerCommands } from '~/commands/commands'
import {
  downloadCalendar,
  downloadEncoderScript,
  downloadPlanFile,
  downloadPlaylist,
  downloadSettingsSheet,
  downloadShowFile,
} from '~/composables/files'
import { useNight } from '~/composables/useNight'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { steps } from './steps'

/** What opens over any step of a show. */
export type ShowDialog = 'shortcuts' | 'finder' | 'details'

/** What can be done on every step of a show, by key and by name. */
export function offerShowCommands(open: (dialog: ShowDialog) => void): void {
  const store = useShowStore()
  const selection = useSelectionStore()
  const router = useRouter()
  const { toggle: toggleNight } = useNight()

  offerCommands([
    ...steps.map((step): Command => ({
      id: `step.${step.name}`,
      label: `Go to ${step.label}`,
      group: 'Steps',
      keys: `Alt+Digit${step.digit}`,
      worksInFields: 'always',
      run: () => void router.push(`/shows/${store.id}/${step.name}`),
    })),
    {
      id: 'show.on-air',
      label: 'Open the on-air window',
      group: 'Show',
      run: () => void window.open(`/shows/${store.id}/on-air`, '_blank'),
    },
    {
      id: 'show.undo',
      label: 'Undo',
      group: 'Show',
      keys: '$mod+z',
      worksInFields: 'when unchanged',
      isPossible: () => store.canUndo,
      run: () => store.undo(),
    },
    {
      id: 'show.redo',
      label: 'Redo',
      group: 'Show',
      keys: '$mod+Shift+z',
      worksInFields: 'when unchanged',
      isPossible: () => store.canRedo,
      run: () => store.redo(),
    },
    {
      id: 'show.find',
      label: 'Find anything',
      group: 'Show',
      keys: '$mod+k',
      worksInFields: 'always',
      run: () => open('finder'),
    },
    {
      id: 'show.shortcuts',
      label: 'Keys on this page',
      group: 'Show',
      keys: 'Shift+?',
      run: () => open('shortcuts'),
    },
    {
      id: 'show.details',
      label: 'Title, date and length',
      group: 'Show',
      run: () => open('details'),
    },
    {
      id: 'show.file',
      label: 'Save the show as a file',
      group: 'Take away',
      run: () => void downloadShowFile(store.show),
    },
    {
      id: 'show.sheet',
      label: 'Save the settings sheet',
      group: 'Take away',
      run: () => void downloadSettingsSheet(store.show),
    },
    {
      id: 'show.plan',
      label: 'Save the plan as JSON',
      group: 'Take away',
      run: () => void downloadPlanFile(store.show),
    },
    {
      id: 'show.script',
      label: 'Save the plan as an encoder script',
      group: 'Take away',
      run: () => void downloadEncoderScript(store.show),
    },
    {
      id: 'show.calendar',
      label: 'Save the run-up as a calendar',
      group: 'Take away',
      run: () => void downloadCalendar(store.show, store.id),
    },
    {
      id: 'show.print',
      label: 'Settings sheet to print',
      group: 'Take away',
      run: () => void router.push(`/sheets/${store.id}`),
    },
    { id: 'show.night', label: 'Day or night colours', group: 'Show', run: toggleNight },
    {
      id: 'show.guide',
      label: 'Guide: a show from first to last',
      group: 'Steps',
      run: () => void router.push('/guide'),
    },
    { id: 'show.home', label: 'Home, all shows', group: 'Steps', run: () => void router.push('/') },
  ])

  /** A ladder as the playlist that its players read. */
  offerCommands(() =>
    store.isOpen
      ? store.show.destinations
          .filter(({ on, renditions }) => on && renditions.length > 1)
          .map((destination): Command => ({
            id: `playlist.${destination.id}`,
            label: `Save the ladder of ${destination.name} as an HLS playlist`,
            group: 'Take away',
            run: () => void downloadPlaylist(destination),
          }))
      : [],
  )

  /** Every scene, source and destination by its name. */
  offerCommands(() => {
    if (!store.isOpen) return []
    const go = (step: string): void => void router.push(`/shows/${store.id}/${step}`)
    return [
      ...store.show.scenes.map((scene): Command => ({
        id: `scene.${scene.id}`,
        label: scene.name,
        group: 'Scenes',
        run: () => {
          selection.chooseScene(scene.id)
          go('canvases')
        },
      })),
      ...selection.scene.layers.map((layer): Command => ({
        id: `layer.${layer.id}`,
        label: selection.sourcesById.get(layer.sourceId)?.name ?? layer.sourceId,
        group: 'Sources of this scene',
        run: () => {
          selection.layerId = layer.id
          go('canvases')
        },
      })),
      ...store.show.destinations.map((destination): Command => ({
        id: `destination.${destination.id}`,
        label: destination.name,
        group: 'Destinations',
        run: () => {
          selection.destinationId = destination.id
          go('destinations')
        },
      })),
    ]
  })
}
