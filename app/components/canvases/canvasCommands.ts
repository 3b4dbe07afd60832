import { alignments } from '@green-mantle/core/canvas'
import { canvasNames, type SourceKind, sourceKinds } from '@green-mantle/core/show'
import type { Command } from '~/commands/commands'
import { isPlaying, setPlaying } from '~/pictures/playback'
import { useSelectionStore } from '~/stores/selection'
import { useWorkbenchStore } from '~/stores/workbench'
import { useCanvasFiles } from './files/canvasFiles'
import { useLayers } from './editing/layers'
import { useOwnFiles } from './editing/ownFiles'
import { usePlacing } from './editing/placing'
import { useScenes } from './editing/scenes'
import { useSources } from './editing/sources'

/** What a canvas with the focus does by itself. */
const canvasKeys = [
  ['Move by 1 px', 'arrows'],
  ['Move by 10 px', 'Shift+arrows'],
  ['Next source', 'PageDown'],
  ['Previous source', 'PageUp'],
  ['Choose the next one too', 'Shift+PageDown'],
  ['To its numbers; Escape leads back', 'Enter'],
  ['Remove from this scene', 'Delete'],
  ['Choose nothing', 'Escape'],
] as const
/** What a hand does with a key held down. */
const handKeys = [
  ['Trim: drag an edge', 'Alt'],
  ['Free proportions while resizing', 'Shift'],
  ['Choose several', 'Shift'],
  ['Move without snapping', '$mod'],
] as const

interface Views {
  focusCanvas(canvas: 'landscape' | 'vertical'): void
  openMatch(canvas: 'landscape' | 'vertical' | 'both'): void
  openDressing(): void
  openSeen(): void
}

/** Everything that can be done on Canvases, for keys, the list of shortcuts and the finder. */
export function useCanvasCommands(views: Views): Command[] {
  const selection = useSelectionStore()
  const workbench = useWorkbenchStore()
  const placing = usePlacing()
  const layers = useLayers()
  const sources = useSources()
  const scenes = useScenes()
  const ownFiles = useOwnFiles()
  const files = useCanvasFiles()

  const isChosen = (): boolean => selection.selected !== undefined
  const areSeveral = (): boolean => selection.chosen.length > 1
  /** Words marked on the page are copied as words. */
  const isNothingMarked = (): boolean => (getSelection()?.toString() ?? '') === ''

  function add(kind: SourceKind): void {
    if (kind === 'picture') void ownFiles.choosePicture()
    else if (kind === 'media file') void ownFiles.chooseMedia()
    else void sources.add(kind)
  }

  const of = (
    group: string,
    list: readonly (Omit<Command, 'group' | 'isPossible'> & { isPossible?: () => boolean })[],
  ): Command[] => list.map((command) => ({ group, ...command }))

  return [
    ...of('Canvases', [
      {
        id: 'canvases.landscape',
        label: 'To the landscape canvas',
        keys: 'g l',
        run: () => views.focusCanvas('landscape'),
      },
      {
        id: 'canvases.vertical',
        label: 'To the vertical canvas',
        keys: 'g v',
        run: () => views.focusCanvas('vertical'),
      },
      {
        id: 'canvases.add',
        label: 'Add a source',
        keys: 'n',
        run: () => document.querySelector<HTMLElement>('#add-source')?.click(),
      },
      ...sourceKinds.map((kind) => ({
        id: `canvases.add.${kind}`,
        label: `Add a source: ${kind}`,
        run: () => add(kind),
      })),
      {
        id: 'canvases.match.vertical',
        label: 'Match vertical to landscape',
        keys: 'm v',
        run: () => views.openMatch('vertical'),
      },
      {
        id: 'canvases.match.landscape',
        label: 'Match landscape to vertical',
        keys: 'm l',
        run: () => views.openMatch('landscape'),
      },
      {
        id: 'canvases.match.both',
        label: 'Arrange both canvases from the sources',
        keys: 'm b',
        run: () => views.openMatch('both'),
      },
      { id: 'canvases.dressing', label: 'Dressing', keys: 'd', run: () => views.openDressing() },
      { id: 'canvases.seen', label: 'As viewers see it', keys: 'v', run: () => views.openSeen() },
      {
        id: 'canvases.play',
        label: 'Let moving sources move, or hold them still',
        keys: 'p',
        run: () => setPlaying(!isPlaying.value),
      },
      {
        id: 'canvases.snap',
        label: 'Snap or not',
        keys: 's',
        run: () => (workbench.snaps = !workbench.snaps),
      },
      {
        id: 'canvases.safe',
        label: 'Show or hide the safe areas',
        run: () => (workbench.showsSafeAreas = !workbench.showsSafeAreas),
      },
      ...canvasNames.flatMap((canvas) => [
        {
          id: `canvases.png.${canvas}`,
          label: `Save ${canvas} as PNG`,
          run: () => void files.savePng(canvas),
        },
        {
          id: `canvases.svg.${canvas}`,
          label: `Save ${canvas} as SVG`,
          run: () => void files.saveSvg(canvas),
        },
        {
          id: `canvases.open.${canvas}`,
          label: `Place an SVG on ${canvas}`,
          run: () => void files.openSvg(canvas),
        },
      ]),
    ]),
    ...of('Scenes', [
      { id: 'scenes.add', label: 'Add a scene', run: scenes.add },
      { id: 'scenes.duplicate', label: 'Duplicate this scene', run: scenes.duplicate },
      { id: 'scenes.remove', label: 'Remove this scene', run: scenes.remove },
      {
        id: 'scenes.next',
        label: 'Next scene',
        keys: 'Alt+PageDown',
        run: () => scenes.chooseNeighbour(1),
      },
      {
        id: 'scenes.previous',
        label: 'Previous scene',
        keys: 'Alt+PageUp',
        run: () => scenes.chooseNeighbour(-1),
      },
      {
        id: 'scenes.later',
        label: 'Move this scene down',
        keys: 'Alt+Shift+PageDown',
        run: () => scenes.moveChosen(1),
      },
      {
        id: 'scenes.earlier',
        label: 'Move this scene up',
        keys: 'Alt+Shift+PageUp',
        run: () => scenes.moveChosen(-1),
      },
    ]),
    ...of('Chosen source', [
      ...(['across', 'down', 'both'] as const).map((axis) => ({
        id: `source.centre.${axis}`,
        label: `Centre ${axis}`,
        keys: { across: 'c a', down: 'c d', both: 'c b' }[axis],
        isPossible: isChosen,
        run: () => placing.centre(axis),
      })),
      {
        id: 'source.fit',
        label: 'Fit',
        keys: 'f',
        isPossible: isChosen,
        run: () => placing.scale('fit'),
      },
      {
        id: 'source.fill',
        label: 'Fill',
        keys: 'Shift+f',
        isPossible: isChosen,
        run: () => placing.scale('fill'),
      },
      {
        id: 'source.stretch',
        label: 'Stretch over the canvas',
        isPossible: isChosen,
        run: placing.stretch,
      },
      {
        id: 'source.proportion',
        label: 'Own proportions',
        isPossible: isChosen,
        run: placing.restoreProportion,
      },
      {
        id: 'source.same',
        label: 'Same as on the other canvas',
        keys: '=',
        isPossible: isChosen,
        run: placing.sameAsOther,
      },
      {
        id: 'source.lock',
        label: 'Lock or unlock',
        keys: 'l',
        isPossible: isChosen,
        run: layers.toggleChosenLocked,
      },
      ...canvasNames.map((canvas) => ({
        id: `source.hide.${canvas}`,
        label: `Show or hide on ${canvas}`,
        keys: canvas === 'landscape' ? 'h l' : 'h v',
        isPossible: isChosen,
        run: () => layers.toggleChosenShown(canvas),
      })),
      ...canvasNames.map((canvas) => ({
        id: `source.clear.${canvas}`,
        label: `Move clear of cover zones on ${canvas}`,
        isPossible: isChosen,
        run: () => selection.layerId && placing.moveClear(selection.layerId, canvas),
      })),
      {
        id: 'source.forward',
        label: 'Bring forward',
        keys: 'Alt+ArrowUp',
        isPossible: isChosen,
        run: () => layers.moveChosenInOrder(-1),
      },
      {
        id: 'source.backward',
        label: 'Send backward',
        keys: 'Alt+ArrowDown',
        isPossible: isChosen,
        run: () => layers.moveChosenInOrder(1),
      },
      {
        id: 'source.front',
        label: 'Bring to the front',
        keys: 'Alt+Shift+ArrowUp',
        isPossible: isChosen,
        run: () => layers.moveChosenTo('front'),
      },
      {
        id: 'source.back',
        label: 'Send to the back',
        keys: 'Alt+Shift+ArrowDown',
        isPossible: isChosen,
        run: () => layers.moveChosenTo('back'),
      },
      {
        id: 'source.duplicate',
        label: 'Place once more',
        keys: '$mod+d',
        isPossible: isChosen,
        run: layers.duplicateChosen,
      },
      {
        id: 'source.duplicateSource',
        label: 'Duplicate as a source of its own',
        isPossible: isChosen,
        run: sources.duplicateSource,
      },
      {
        id: 'source.copy',
        label: 'Copy',
        keys: '$mod+c',
        isPossible: () => isChosen() && isNothingMarked(),
        run: layers.copyChosen,
      },
      {
        id: 'source.paste',
        label: 'Paste on this canvas',
        keys: '$mod+v',
        isPossible: layers.canPaste,
        run: layers.paste,
      },
      {
        id: 'source.toOther',
        label: 'Copy to the other canvas',
        isPossible: isChosen,
        run: layers.copyToOtherCanvas,
      },
      {
        id: 'source.all',
        label: 'Choose all on this canvas',
        keys: '$mod+a',
        run: layers.chooseAll,
      },
    ]),
    ...of('Several', [
      ...alignments.map((how) => ({
        id: `several.align.${how}`,
        label: `Align ${how}`,
        isPossible: isChosen,
        run: () => placing.align(how),
      })),
      {
        id: 'several.across',
        label: 'Distribute across',
        isPossible: areSeveral,
        run: () => placing.distribute('across'),
      },
      {
        id: 'several.down',
        label: 'Distribute down',
        isPossible: areSeveral,
        run: () => placing.distribute('down'),
      },
      { id: 'several.equal', label: 'Equal size', isPossible: areSeveral, run: placing.equalSize },
    ]),
    ...of(
      'On a canvas',
      canvasKeys.map(([label, keys]) => ({
        id: `canvas.${label}`,
        label,
        keys,
        isListedOnly: true as const,
        run: () => {},
      })),
    ),
    ...of(
      'With the mouse, holding',
      handKeys.map(([label, keys]) => ({
        id: `hand.${label}`,
        label,
        keys,
        isListedOnly: true as const,
        run: () => {},
      })),
    ),
  ]
}
