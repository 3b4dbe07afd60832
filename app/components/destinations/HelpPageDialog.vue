<script setup lang="ts">
import { type HelpPageRead, withRulesRead } from '@green-mantle/core/destinations'
import type { Destination } from '@green-mantle/core/show'
import { refDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, useId, watch } from 'vue'
import { readingWorker } from '~/workers/workers'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import ScrollBox from '~/components/frame/ScrollBox.vue'
import { useDestinationEditing } from './destinationEditing'
import { useProfileEditing } from './profiles/profileEditing'

/** Rules read out of what a help page says; nothing is changed until they are taken. */
const props = defineProps<{ destination: Destination }>()
const emit = defineEmits<{ close: [] }>()
const editing = useDestinationEditing()
const profiles = useProfileEditing()
const id = useId()

const text = ref('')
const settled = refDebounced(text, 150)
const nothingRead: HelpPageRead = { rules: [], elsewhere: [], notUnderstood: [], isCut: false }
const read = shallowRef(nothingRead)
const left = shallowRef<ReadonlySet<string>>(new Set())
watch(
  settled,
  async (now) => {
    const found = await readingWorker().readHelpPage(now, props.destination.canvas)
    // Meanwhile more may have been typed.
    if (now !== settled.value) return
    read.value = found
    // What the page disagrees about is asked: it is taken by a person alone.
    left.value = new Set(found.rules.filter(({ unsure }) => unsure !== '').map(({ name }) => name))
  },
  { immediate: true },
)
const taken = computed(() => read.value.rules.filter(({ name }) => !left.value.has(name)))

function toggle(name: string): void {
  const next = new Set(left.value)
  if (!next.delete(name)) next.add(name)
  left.value = next
}

function take(keepsProfile: boolean): void {
  const changed = withRulesRead(props.destination, taken.value)
  editing.change(props.destination.id, 'Take the rules read for', (destination) => {
    Object.assign(destination, changed)
  })
  if (keepsProfile) void profiles.saveFrom(changed)
  emit('close')
}
</script>

<template>
  <ModalDialog
    title="Paste what its help page says"
    :description="`Sizes, rates, codecs, sound, keyframes and addresses are read out of it for ${destination.name}. Nothing changes until you take it.`"
    width="wide"
    @close="emit('close')"
  >
    <form class="flex flex-col gap-3" @submit.prevent="take(false)">
      <div class="flex flex-col gap-0.5">
        <label :for="id" class="text-ink-2 text-xs">Text of the page; tables too</label>
        <textarea
          :id="id"
          v-model="text"
          class="field min-h-32"
          spellcheck="false"
          placeholder="Video bitrate: 3,000 to 6,000 kbps&#10;Resolution: up to 1080p at 60 fps&#10;Keyframe interval: 2 s"
        />
      </div>
      <ScrollBox v-if="read.rules.length > 0" class="max-h-72" label="Rules that were read">
        <table class="w-full">
          <caption class="sr-only">
            Rules that were read
          </caption>
          <thead class="bg-sheet sticky top-0">
            <tr class="border-rule text-ink-2 border-b text-left text-xs">
              <th class="w-8 py-1"><span class="sr-only">Take</span></th>
              <th class="pr-3">Rule</th>
              <th class="pr-3">Read as</th>
              <th>From the words</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="rule in read.rules"
              :key="rule.name"
              class="border-rule border-b align-baseline"
              :class="{ 'text-ink-2': left.has(rule.name) }"
            >
              <td class="py-1">
                <input
                  type="checkbox"
                  class="accent-moss size-4"
                  :aria-label="`Take ${rule.name}: ${rule.value}`"
                  :checked="!left.has(rule.name)"
                  @change="toggle(rule.name)"
                />
              </td>
              <th scope="row" class="pr-3 text-left font-normal whitespace-nowrap">
                {{ rule.name }}
              </th>
              <td class="pr-3 font-semibold break-words">{{ rule.value }}</td>
              <td class="text-ink-2 text-xs">
                <p v-if="rule.unsure" class="text-ochre font-semibold">
                  {{ rule.unsure }} Take it if this is right.
                </p>
                <q
                  v-for="words in rule.words.slice(0, rule.unsure ? 8 : 3)"
                  :key="words"
                  class="block"
                  >{{ words }}</q
                >
              </td>
            </tr>
          </tbody>
        </table>
      </ScrollBox>
      <p v-else-if="settled.trim() !== ''" role="status">
        No rule was found in this text. It stays here, so that you can look for it in the list
        below.
      </p>
      <p v-if="read.isCut" role="status">
        This text is longer than what is read of one: only its beginning was read.
      </p>
      <details v-if="read.elsewhere.length + read.notUnderstood.length > 0" :open="true">
        <summary class="cursor-pointer font-semibold">
          Not taken: {{ read.notUnderstood.length }} not understood<template
            v-if="read.elsewhere.length > 0"
            >, {{ read.elsewhere.length }} set elsewhere</template
          >
        </summary>
        <ul class="text-ink-2 max-h-32 list-disc overflow-y-auto pl-5 text-xs" tabindex="0">
          <li v-for="words in read.notUnderstood" :key="words">{{ words }}</li>
          <li v-for="words in read.elsewhere" :key="words">
            {{ words }} <em>(profile and rate control are set per send on Fit)</em>
          </li>
        </ul>
      </details>
      <div class="flex flex-wrap gap-2">
        <button type="submit" class="button button-primary" :disabled="taken.length === 0">
          Take {{ taken.length }} rules
        </button>
        <button type="button" class="button" :disabled="taken.length === 0" @click="take(true)">
          Take them and keep a profile
        </button>
        <button type="button" class="button button-quiet" @click="emit('close')">
          Change nothing
        </button>
      </div>
    </form>
  </ModalDialog>
</template>
