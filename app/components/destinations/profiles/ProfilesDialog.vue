<script setup lang="ts">
import { type CanvasName, canvasesOf, type Profile } from '@green-mantle/core/show'
import { Download, FileInput, Plus, Trash2 } from '@lucide/vue'
import { onMounted } from 'vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { useProfilesStore } from '~/stores/profiles'
import { useDestinationEditing } from '../destinationEditing'
import { useProfileEditing } from './profileEditing'

/** The profiles of this installation: add destinations from one, on one canvas or on both in one step. */
const emit = defineEmits<{ close: [] }>()
const profiles = useProfilesStore()
const editing = useDestinationEditing()
const profileEditing = useProfileEditing()
onMounted(() => void profiles.load())

function add(profile: Profile, canvases: readonly CanvasName[]): void {
  editing.addFromProfile(profile, canvases)
  emit('close')
}
</script>

<template>
  <ModalDialog
    title="Add from a profile"
    description="A profile says what a platform accepts and demands. It holds no key, so it can be traded."
    width="wide"
    @close="emit('close')"
  >
    <p v-if="profiles.problem" role="alert" class="text-madder">{{ profiles.problem }}</p>
    <ul class="flex max-h-[50vh] flex-col overflow-y-auto">
      <li
        v-for="profile in profiles.profiles"
        :key="profile.id"
        class="border-rule flex items-center gap-2 border-b py-2"
        :data-profile="profile.name"
      >
        <div class="min-w-0 grow">
          <span class="font-title font-semibold">{{ profile.name }}</span>
          <span class="text-ink-2 text-xs">
            revision {{ profile.revision }}, {{ profile.dated }}</span
          >
          <p class="text-ink-2 truncate text-xs">{{ profile.note }}</p>
        </div>
        <button
          v-for="canvas in canvasesOf(profile)"
          :key="canvas"
          type="button"
          class="button"
          :aria-label="`Add ${profile.name} on ${canvas}`"
          @click="add(profile, [canvas])"
        >
          <Plus class="size-4" /> {{ canvas }}
        </button>
        <button
          v-if="canvasesOf(profile).length === 2"
          type="button"
          class="button button-primary"
          :aria-label="`Add ${profile.name} on both canvases`"
          @click="add(profile, canvasesOf(profile))"
        >
          <Plus class="size-4" /> both
        </button>
        <button
          type="button"
          class="button button-quiet px-1!"
          :aria-label="`Save ${profile.name} as a file`"
          @click="profileEditing.takeAway(profile)"
        >
          <Download class="size-4" />
        </button>
        <button
          type="button"
          class="button button-quiet px-1!"
          :aria-label="`Remove the profile ${profile.name}`"
          @click="profileEditing.remove(profile)"
        >
          <Trash2 class="size-4" />
        </button>
      </li>
    </ul>
    <p v-if="profiles.profiles.length === 0 && !profiles.problem" class="text-ink-2">
      No profile is here yet. Bring a file in, or keep a destination of yours as one.
    </p>
    <button type="button" class="button mt-3" @click="profileEditing.bringIn">
      <FileInput class="size-4" /> Bring a profile in …
    </button>
  </ModalDialog>
</template>
