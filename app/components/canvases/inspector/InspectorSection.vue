<script setup lang="ts">
import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/vue'
import { ChevronDown } from '@lucide/vue'
import { useLocalStorage } from '@vueuse/core'

/** A part of the inspector that can be folded; whether it is stays with this browser. */
const props = defineProps<{ title: string; startsOpen?: boolean; summary?: string }>()
const isOpen = useLocalStorage(`green-mantle.section.${props.title}`, props.startsOpen ?? false)
</script>

<template>
  <Disclosure
    v-slot="{ open }"
    as="div"
    class="border-rule mt-3 border-t pt-2"
    :default-open="isOpen"
  >
    <DisclosureButton
      class="flex min-h-6 w-full items-center gap-1.5 rounded text-left text-sm font-semibold"
      @click="isOpen = !open"
    >
      <ChevronDown
        class="text-ink-2 size-3.5 shrink-0 transition-transform"
        :class="open ? '' : '-rotate-90'"
        aria-hidden="true"
      />
      <span class="grow">{{ title }}</span>
      <span v-if="summary" class="text-ink-2 truncate text-xs font-normal">{{ summary }}</span>
    </DisclosureButton>
    <DisclosurePanel class="flex flex-col gap-2 pt-2"><slot /></DisclosurePanel>
  </Disclosure>
</template>
