<script setup lang="ts">
import { Dialog, DialogDescription, DialogPanel, DialogTitle } from '@headlessui/vue'
import { X } from '@lucide/vue'

withDefaults(defineProps<{ title: string; description?: string; width?: 'narrow' | 'wide' }>(), {
  description: '',
  width: 'narrow',
})
defineEmits<{ close: [] }>()
</script>

<template>
  <Dialog open class="relative z-50" @close="$emit('close')">
    <div class="fixed inset-0 bg-black/40" aria-hidden="true" />
    <div class="fixed inset-0 flex items-start justify-center overflow-y-auto p-8 pt-[10vh]">
      <DialogPanel
        class="card w-full p-5 shadow-xl"
        :class="width === 'wide' ? 'max-w-3xl' : 'max-w-lg'"
      >
        <div class="flex items-start justify-between gap-4">
          <DialogTitle as="h2" class="text-xl">{{ title }}</DialogTitle>
          <button
            type="button"
            class="button button-quiet -mt-1 -mr-1"
            aria-label="Close"
            @click="$emit('close')"
          >
            <X class="size-4" />
          </button>
        </div>
        <DialogDescription v-if="description" class="text-ink-2 mt-1">
          {{ description }}
        </DialogDescription>
        <div class="mt-4"><slot /></div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
