<script setup lang="ts">
import { mixes, type Sound } from '@green-mantle/core/show'
import { levelShare, silenceDecibels } from '@green-mantle/core/sound'
import { decibelsInWords } from '@green-mantle/core/words'
import { Mic, Monitor, Music, Trash2, Video, Volume2, VolumeX } from '@lucide/vue'
import { computed } from 'vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import type { SoundInput } from '~/sound/inputs'
import { channelChoices, sampleRateChoices } from './choices'
import { useSoundEditing } from './soundEditing'

/** One row a sound: how it is taken, and which mixes it goes into. */
const props = defineProps<{
  sounds: readonly Sound[]
  inputs: readonly SoundInput[]
  levels: ReadonlyMap<string, number>
  isListening: boolean
}>()
const chosenId = defineModel<string>('chosenId')
const editing = useSoundEditing()

const icons = { microphone: Mic, 'computer sound': Monitor, music: Music, 'own sound': Video }

/** An input that is not there now stays chosen, and says so. */
const inputChoices = computed(() => (input: string) => [
  { value: '', label: 'choose …' },
  ...props.inputs.map(({ name, deviceId }) => ({
    value: name,
    label: deviceId === null ? `${name} (stand-in)` : name,
  })),
  ...(input !== '' && !props.inputs.some(({ name }) => name === input)
    ? [{ value: input, label: `${input} (not here)` }]
    : []),
])
</script>

<template>
  <table class="w-full">
    <thead>
      <tr class="border-rule text-ink-2 border-b text-xs">
        <th class="w-40 py-1.5">Sound</th>
        <th class="w-36">Taken from</th>
        <th v-if="isListening" class="w-24">Heard now</th>
        <th class="w-20">Level, dB</th>
        <th class="w-20">Delay, ms</th>
        <th class="w-22">Channels</th>
        <th class="w-24">Rate</th>
        <th class="w-12" title="Noise suppression">Noise</th>
        <th class="w-12">Live</th>
        <th class="w-14">Archive</th>
        <th class="w-8"><span class="sr-only">Muted</span></th>
        <th class="w-8"><span class="sr-only">Remove</span></th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="sound in sounds"
        :key="sound.id"
        class="border-rule border-b"
        :class="sound.id === chosenId ? 'bg-leaf' : ''"
        :data-sound="sound.name"
        @click="chosenId = sound.id"
        @focusin="chosenId = sound.id"
      >
        <td class="py-1 pr-2">
          <div class="flex items-center gap-1.5">
            <component
              :is="icons[sound.kind]"
              class="text-ink-2 size-4 shrink-0"
              :aria-label="sound.kind"
              role="img"
            />
            <TextField
              class="grow"
              hide-label
              label="Name of the sound"
              required
              :model-value="sound.name"
              @update:model-value="editing.change(sound.id, { name: $event }, 'Rename')"
            />
          </div>
        </td>
        <td class="pr-2">
          <SelectField
            hide-label
            :label="`${sound.name} is taken from`"
            :choices="inputChoices(sound.input)"
            :model-value="sound.input"
            @update:model-value="editing.change(sound.id, { input: $event }, 'Choose the input of')"
          />
        </td>
        <td v-if="isListening" class="pr-2">
          <span class="bg-sunk block h-1.5 overflow-hidden rounded-full" aria-hidden="true">
            <span
              class="bg-moss block h-full origin-left"
              :style="{
                transform: `scaleX(${levelShare(levels.get(sound.id) ?? silenceDecibels)})`,
              }"
            />
          </span>
          <span class="number text-xs">{{
            decibelsInWords(levels.get(sound.id) ?? silenceDecibels)
          }}</span>
        </td>
        <td class="pr-2">
          <QuantityField
            quantity="level"
            cell
            :label="`Level of ${sound.name}`"
            :model-value="sound.levelDecibels"
            @update:model-value="
              editing.change(
                sound.id,
                { levelDecibels: $event },
                'Set the level of',
                `level ${sound.id}`,
              )
            "
          />
        </td>
        <td class="pr-2">
          <QuantityField
            quantity="delay"
            cell
            :label="`Delay of ${sound.name}`"
            :model-value="sound.delayMilliseconds"
            @update:model-value="
              editing.change(sound.id, { delayMilliseconds: $event }, 'Delay', `delay ${sound.id}`)
            "
          />
        </td>
        <td class="pr-2">
          <SelectField
            hide-label
            :label="`Channels of ${sound.name}`"
            :choices="channelChoices"
            :model-value="sound.channels"
            @update:model-value="editing.change(sound.id, { channels: $event })"
          />
        </td>
        <td class="pr-2">
          <SelectField
            hide-label
            :label="`Sample rate of ${sound.name}`"
            :choices="sampleRateChoices"
            :model-value="sound.sampleRateHz"
            @update:model-value="editing.change(sound.id, { sampleRateHz: $event })"
          />
        </td>
        <td>
          <OnSwitch
            :label="`Noise of ${sound.name} is suppressed`"
            :model-value="sound.noiseSuppression"
            @update:model-value="editing.change(sound.id, { noiseSuppression: $event })"
          />
        </td>
        <td v-for="mix in mixes" :key="mix">
          <OnSwitch
            :label="`${sound.name} is in the ${mix} mix`"
            :model-value="sound.mixes[mix]"
            @update:model-value="
              editing.change(sound.id, { mixes: { ...sound.mixes, [mix]: $event } }, `Mix ${mix}:`)
            "
          />
        </td>
        <td>
          <button
            type="button"
            class="button px-1!"
            :aria-pressed="sound.muted"
            :aria-label="`Mute ${sound.name}`"
            :title="`Mute ${sound.name}`"
            @click="
              editing.change(sound.id, { muted: !sound.muted }, sound.muted ? 'Unmute' : 'Mute')
            "
          >
            <component :is="sound.muted ? VolumeX : Volume2" class="size-4" />
          </button>
        </td>
        <td>
          <button
            type="button"
            class="button button-quiet px-1!"
            :aria-label="`Remove ${sound.name}`"
            @click="editing.remove(sound.id)"
          >
            <Trash2 class="size-4" />
          </button>
        </td>
      </tr>
    </tbody>
  </table>
</template>
