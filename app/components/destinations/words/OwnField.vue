<script setup lang="ts">
import { counted } from '@green-mantle/core/destinations'
import type { WordRules } from '@green-mantle/core/show'
import { Undo2 } from '@lucide/vue'
import { computed } from 'vue'
import LongTextField from '~/components/fields/LongTextField.vue'
import TextField from '~/components/fields/TextField.vue'

/** One text of a destination: the show's, until another is written here; its length as the destination counts it. */
const props = defineProps<{
  label: string
  /** null while the show's text counts. */
  own: string | null
  ofShow: string
  rules: WordRules
  max: number | null
  long?: boolean
}>()
const emit = defineEmits<{ 'update:own': [value: string | null] }>()
const text = computed(() => props.own ?? props.ofShow)
const length = computed(() => counted(text.value, props.max, props.rules))
const take = (value: string): void => emit('update:own', value === props.ofShow ? null : value)
</script>

<template>
  <div>
    <component
      :is="long ? LongTextField : TextField"
      :label="label"
      :max="long ? 20000 : 200"
      :model-value="text"
      @update:model-value="take"
    />
    <p class="mt-0.5 flex items-center gap-2 text-xs">
      <span class="number" :class="length.isTooLong ? 'text-madder font-semibold' : 'text-ink-2'"
        >{{ length.length }}{{ length.max === null ? '' : ` of ${length.max}` }}
        {{ rules.countedIn }}</span
      >
      <span v-if="own === null" class="text-ink-2">as for the show</span>
      <button
        v-else
        type="button"
        class="link inline-flex items-center gap-1"
        @click="emit('update:own', null)"
      >
        <Undo2 class="size-3" /> as for the show
        <span class="sr-only">: {{ label }}</span>
      </button>
    </p>
  </div>
</template>
