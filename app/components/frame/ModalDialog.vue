<script setup lang="ts">
import { Dialog, DialogDescription, DialogPanel, DialogTitle } from '@headlessui/vue'
import { X } from '@lucide/vue'

withDefaults(
  defineProps<{ title: string; description?: string; width?: 'narrow' | 'wide' | 'full' }>(),
  {
    description: '',
    width: 'narrow',
  },
)
defineEmits<{ close: [] }>()
</script>

<template>
  <Dialog open class="relative z-50" @close="$emit('close')">
    <div class="fixed inset-0 bg-scrim" aria-hidden="true" />
    <div class="fixed inset-0 flex items-start justify-center overflow-y-auto p-8 pt-[10vh]">
      <DialogPanel
        class="card relative w-full p-5 shadow-xl"
        :class="{ narrow: 'max-w-lg', wide: 'max-w-3xl', full: 'max-w-[76rem]' }[width]"
      >
        <DialogTitle as="h2" class="pr-8 text-xl">{{ title }}</DialogTitle>
        <DialogDescription v-if="description" class="text-ink-2 mt-1">
          {{ description }}
        </DialogDescription>
        <div class="mt-4"><slot /></div>
        <!-- Last, so that what the dialog is about gets the focus first. -->
        <button
          type="button"
          class="button button-quiet absolute! top-3 right-3"
          aria-label="Close"
          @click="$emit('close')"
        >
          <X class="size-4" />
        </button>
      </DialogPanel>
    </div>
  </Dialog>
</template>
