<script setup lang="ts">
import {
  audiences,
  countedIn,
  type Destination,
  newWordRules,
  type WordRules,
} from '@green-mantle/core/show'
import { byteUnits } from '@green-mantle/core/words'
import ChoiceSet from '~/components/fields/ChoiceSet.vue'
import NumberField from '~/components/fields/NumberField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useDestinationEditing } from '../destinationEditing'

/** How long words may be there, and what a thumbnail has to be. */
const props = defineProps<{ destination: Destination }>()
const editing = useDestinationEditing()

function set(changes: Partial<WordRules>): void {
  editing.change(props.destination.id, 'Change the rules of', ({ rules }) => {
    Object.assign(rules.words, changes)
  })
}
function setThumbnail(changes: Partial<NonNullable<WordRules['thumbnail']>>): void {
  const { thumbnail } = props.destination.rules.words
  if (thumbnail) set({ thumbnail: { ...thumbnail, ...changes } })
}
const unitChoices = countedIn.map((value) => ({ value, label: value }))
const audienceChoices = audiences.map((value) => ({ value, label: value }))
const limits = [
  { key: 'mostTitle', label: 'Title at most', min: 1, max: 10_000 },
  { key: 'mostDescription', label: 'Description at most', min: 1, max: 100_000 },
  { key: 'mostTags', label: 'Tags at most', min: 0, max: 100 },
  { key: 'mostTagLength', label: 'A tag at most', min: 1, max: 200 },
] as const
const thumbnailLimits = [
  { key: 'ratioWidth', label: 'Across', min: 1, max: 100, units: {} },
  { key: 'ratioHeight', label: 'to down', min: 1, max: 100, units: {} },
  { key: 'leastWidth', label: 'Least width, px', min: 1, max: 16_384, units: { px: 1 } },
  { key: 'mostBytes', label: 'At most, bytes', min: 1000, max: 100_000_000, units: byteUnits },
] as const
</script>

<template>
  <details class="border-rule border-t pt-2">
    <summary class="cursor-pointer font-semibold">What it takes of words and pictures</summary>
    <div class="mt-2 grid grid-cols-2 gap-2">
      <SelectField
        label="Lengths are counted in"
        :model-value="destination.rules.words.countedIn"
        :choices="unitChoices"
        @update:model-value="set({ countedIn: $event })"
      />
      <NumberField
        v-for="limit in limits"
        :key="limit.key"
        optional
        :label="limit.label"
        :min="limit.min"
        :max="limit.max"
        :model-value="destination.rules.words[limit.key]"
        @update:model-value="set({ [limit.key]: $event })"
      />
    </div>
    <ChoiceSet
      class="mt-2"
      label="Audiences"
      :model-value="destination.rules.words.audiences"
      :choices="audienceChoices"
      @update:model-value="set({ audiences: $event })"
    />
    <div class="mt-2 flex items-center gap-2">
      <OnSwitch
        label="Takes a thumbnail"
        :model-value="destination.rules.words.thumbnail !== null"
        @update:model-value="set({ thumbnail: $event ? newWordRules.thumbnail : null })"
      />
      <span aria-hidden="true">Takes a thumbnail</span>
    </div>
    <div v-if="destination.rules.words.thumbnail" class="mt-1 grid grid-cols-4 gap-2">
      <NumberField
        v-for="limit in thumbnailLimits"
        :key="limit.key"
        :label="limit.label"
        :units="limit.units"
        :min="limit.min"
        :max="limit.max"
        :model-value="destination.rules.words.thumbnail[limit.key]"
        @update:model-value="setThumbnail({ [limit.key]: $event })"
      />
    </div>
  </details>
</template>
