<script setup lang="ts">
import { Flag, History, X } from '@lucide/vue'
import { computed } from 'vue'
import { allCommands } from '~/commands/commands'
import { keysOf } from '~/commands/ownKeys'
import KeyCaps from '~/components/frame/KeyCaps.vue'
import TextField from '~/components/fields/TextField.vue'
import { useNightLogStore } from '~/stores/nightLog'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'
import { useMarking } from './marking'
import { signedClockFace } from './nightTimes'

/** Moments of the show, marked as they happen and named now or later. */
const show = useShowStore()
const sheet = useRunSheetStore()
const log = useNightLogStore()

const backSeconds = 30
const zero = computed(() =>
  Date.parse(log.state.ticks.get('on-air')?.at ?? sheet.startsAt.toISOString()),
)
const at = (iso: string): string => {
  const seconds = (Date.parse(iso) - zero.value) / 1000
  return signedClockFace(seconds)
}
/** Where it can be pressed: not on a phone's page. */
const markKeys = computed(() => {
  const command = allCommands().find(({ id }) => id === 'night.mark')
  return command && keysOf(command)
})
const marks = computed(() => log.state.marks.toReversed())
const sceneName = (id: string | null): string =>
  show.show.scenes.find((scene) => scene.id === id)?.name ?? ''
const mark = useMarking()
defineExpose({ mark })
</script>

<template>
  <section class="card p-3" aria-labelledby="marks-title">
    <h2 id="marks-title" class="text-lg">Marks</h2>
    <div class="mt-1 flex flex-wrap gap-2">
      <button type="button" class="button flex-1" @click="mark(0)">
        <Flag class="size-4" /> Mark now
        <KeyCaps v-if="markKeys" class="ml-auto" :keys="markKeys" />
      </button>
      <button type="button" class="button" @click="mark(backSeconds)">
        <History class="size-4" /> Last {{ backSeconds }} s
      </button>
    </div>
    <p v-if="marks.length === 0" class="text-ink-2 mt-2 text-sm">
      Marks leave as chapters, a list of times or a table.
    </p>
    <ul v-else class="mt-2 max-h-44 overflow-y-auto" tabindex="0" aria-label="Marks made">
      <li v-for="each in marks" :key="each.id" class="flex items-center gap-2 py-0.5">
        <span class="number w-16 shrink-0 text-xs" :title="sceneName(each.sceneId)">{{
          at(each.from)
        }}</span>
        <TextField
          class="grow"
          :model-value="each.name"
          :label="`Name of the mark at ${at(each.from)}`"
          hide-label
          @update:model-value="sheet.say({ kind: 'mark named', markId: each.id, name: $event })"
        />
        <button
          type="button"
          class="button button-quiet"
          :aria-label="`Remove the mark at ${at(each.from)}`"
          @click="sheet.say({ kind: 'mark removed', markId: each.id })"
        >
          <X class="size-4" />
        </button>
      </li>
    </ul>
  </section>
</template>
