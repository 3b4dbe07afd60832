<script setup lang="ts">
import { addressProblem, holdsASecret, type Protocol } from '@green-mantle/core/show'
import { computed, ref, useId, watch } from 'vue'

/** A server address, held to its protocol. One that holds a secret is never taken. */
const props = defineProps<{ modelValue: string; label: string; protocol: Protocol }>()
const emit = defineEmits<{ 'update:modelValue': [address: string] }>()
const id = useId()
const text = ref(props.modelValue)
watch(
  () => props.modelValue,
  (value) => (text.value = value),
)
const problem = computed(() => addressProblem(text.value, props.protocol))

function take(): void {
  const address = text.value.trim()
  if (address !== props.modelValue && !holdsASecret(address)) emit('update:modelValue', address)
}
</script>

<template>
  <div class="flex min-w-0 flex-col gap-0.5">
    <label :for="id" class="text-ink-2 text-xs">{{ label }}</label>
    <input
      :id="id"
      v-model="text"
      type="text"
      inputmode="url"
      maxlength="500"
      autocomplete="off"
      spellcheck="false"
      class="field number"
      :data-unchanged="text === modelValue"
      :aria-invalid="problem !== null"
      :aria-describedby="problem ? `${id}-problem` : undefined"
      @change="take"
      @keydown.enter="take"
    />
    <p v-if="problem" :id="`${id}-problem`" role="alert" class="text-madder text-xs">
      This address can’t be used: {{ problem }}.
    </p>
  </div>
</template>
