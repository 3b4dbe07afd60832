<script setup lang="ts">
import {
  betweenErrors,
  bitsAgainst,
  maxPictureClips,
  modelErrors,
} from '@green-mantle/core/measured'
import type { OwnPicture } from '@green-mantle/core/show'
import { pictureKindNames, renditionInWords } from '@green-mantle/core/words'
import { Film, Square, Trash2 } from '@lucide/vue'
import { DateTime } from 'luxon'
import { computed, ref } from 'vue'
import MeasuringProgress from '~/components/encoders/MeasuringProgress.vue'
import SelectField from '~/components/fields/SelectField.vue'
import type { StoredClip } from '~/api/pictures'
import { useOwnPictures } from '~/composables/ownPictures'
import { useShowEditing } from '~/composables/showEditing'
import { chooseClips, useStoredClips } from '~/composables/storedClips'
import { useShowStore } from '~/stores/show'
import MeasuredPoints from './MeasuredPoints.vue'

/** Measures what the picture of a clip needs, and offers the result to this show. */
const store = useShowStore()
const editing = useShowEditing()
const { known, going, problem, measure, stop, remove } = useOwnPictures()
const { ownClips, ownClip } = useStoredClips()

const report = computed(() => known.value?.measuring.report ?? null)
const fromDisk = 'a file, or two …'
const noOther = 'no other'
const clips = computed(() => [...ownClips.value, { value: fromDisk, label: fromDisk }])
const others = computed(() => [{ value: noOther, label: noOther }, ...ownClips.value])
const chosen = ref(clips.value[0]?.value ?? fromDisk)
const other = ref(noOther)

/** None where a file that was to be chosen was not. */
async function clipsToMeasure(): Promise<StoredClip[]> {
  const second = ownClip(other.value)
  if (chosen.value !== fromDisk) return [...ownClip(chosen.value), ...second]
  // In one go: a browser opens no second dialog by itself.
  const stored = await chooseClips(maxPictureClips - second.length)
  return stored.length === 0 ? [] : [...stored, ...second]
}

const dated = (at: string): string =>
  DateTime.fromISO(at).toLocaleString({ day: 'numeric', month: 'short', year: 'numeric' })
const times = (factor: number): string => factor.toFixed(factor < 10 ? 1 : 0)
const points = (value: number): string => `${value.toFixed(1)} points`

const isInUse = (picture: OwnPicture): boolean =>
  store.show.pictureKind === 'own' && store.show.ownPicture?.measuredAt === picture.measuredAt

const shown = computed(() =>
  (known.value?.pictures ?? []).map(({ id, picture }) => {
    const { clip, nearestKind, spatialInformation, temporalInformation } = picture
    const between = betweenErrors(picture)
    return {
      id,
      picture,
      needs: `Needs ${times(bitsAgainst(picture, nearestKind))} times the bits of “${pictureKindNames[nearestKind]}”, whose form fits it best; ${times(bitsAgainst(picture, 'hands'))} times those of “${pictureKindNames.hands}”.`,
      sure: `${between ? `Scores between measured encodes are foretold to ${points(between.mean)} on average, ${points(between.max)} at most` : 'No encode lies between two others, so that nothing is known of the error'}; the fitted form alone is ${points(modelErrors(picture, picture).mean)} off.`,
      about: `${renditionInWords(clip)}, ${clip.seconds.toFixed(1)} s of it; spatial information ${Math.round(spatialInformation)}, temporal ${Math.round(temporalInformation)} (ITU-T P.910). ${picture.points.length} encodes, ${picture.program}, ${picture.processor}, ${dated(picture.measuredAt)}.`,
    }
  }),
)
</script>

<template>
  <section class="card p-3.5" aria-labelledby="measure-picture">
    <div class="flex flex-wrap items-end gap-2">
      <h3 id="measure-picture" class="text-lg">Measure my picture</h3>
      <span class="grow" />
      <button v-if="going" type="button" class="button" @click="stop">
        <Square class="size-4" /> Stop, keep what is known
      </button>
      <template v-else>
        <SelectField v-model="chosen" class="w-48" label="Clip" :choices="clips" />
        <SelectField
          v-if="ownClips.length > 0"
          v-model="other"
          class="w-40"
          label="Second clip"
          :choices="others"
        />
        <button
          type="button"
          class="button button-primary"
          :disabled="!known || known.missing !== null"
          @click="measure(clipsToMeasure)"
        >
          <Film class="size-4" /> Measure, about 2 min
        </button>
      </template>
    </div>
    <MeasuringProgress
      what="Measuring my picture"
      :going="going"
      :report="report"
      :problem="problem"
      :missing="known?.missing ?? null"
    />
    <p v-if="!going" class="text-ink-2 mt-2 max-w-[75ch]">
      Short encodes of a clip of yours, at several sizes, frame rates and bitrates, each held
      against the clip. Three seconds from its middle count: choose one that moves as your show
      does, or two of one canvas, a still scene and a lively one, of which half the time counts
      each. Scores then follow what was measured and no longer a kind of picture.
    </p>
    <ul v-if="shown.length > 0" class="mt-3 flex flex-col gap-3">
      <li
        v-for="{ id, picture, needs, sure, about } in shown"
        :key="id"
        class="border-rule border-t pt-3"
      >
        <div class="flex flex-wrap items-center gap-2">
          <strong class="min-w-0 truncate" :title="picture.name">{{ picture.name }}</strong>
          <span class="grow" />
          <button
            type="button"
            class="button"
            :disabled="isInUse(picture)"
            @click="editing.takeOwnPicture(picture)"
          >
            {{ isInUse(picture) ? 'This show uses it' : 'Use in this show' }}
          </button>
          <button
            type="button"
            class="button"
            :aria-label="`Remove ${picture.name} from this list`"
            @click="remove(id)"
          >
            <Trash2 class="size-4" /> Remove
          </button>
        </div>
        <p>{{ needs }} {{ sure }}</p>
        <p class="text-ink-2 text-xs">{{ about }}</p>
        <MeasuredPoints :picture="picture" />
      </li>
    </ul>
  </section>
</template>
