<script setup lang="ts">
import { type Destination, profileState, withProfile } from '@green-mantle/core/show'
import { BookMarked } from '@lucide/vue'
import { computed } from 'vue'
import { useProfilesStore } from '~/stores/profiles'
import { useDestinationEditing } from '../destinationEditing'
import { useProfileEditing } from './profileEditing'

/** Which profile a destination was made from, and whether a newer revision is here. */
const props = defineProps<{ destination: Destination }>()
const profiles = useProfilesStore()
const editing = useDestinationEditing()
const profileEditing = useProfileEditing()
const state = computed(() => profileState(props.destination, profiles.profiles))
const present = computed(() =>
  props.destination.profile ? profiles.byId(props.destination.profile.id) : undefined,
)

function takeOver(): void {
  const profile = present.value
  if (!profile) return
  editing.change(props.destination.id, `Take revision ${profile.revision} over for`, (changed) => {
    Object.assign(changed, withProfile(changed, profile))
  })
}
</script>

<template>
  <div class="mt-1 flex flex-wrap items-center gap-2 text-xs">
    <BookMarked class="text-ink-2 size-3.5" />
    <span v-if="destination.profile" data-testid="profile-note">
      Profile {{ destination.profile.name }}, revision {{ destination.profile.revision }} of
      {{ destination.profile.dated
      }}<span v-if="state === 'older'" class="text-ochre font-semibold"
        >, older than revision {{ present?.revision }} here</span
      ><template v-else-if="state === 'newer'">, newer than the one here</template
      ><template v-else-if="state === 'not here'">, not among the profiles here</template>
    </span>
    <span v-else>Not from a profile</span>
    <button v-if="state === 'older'" type="button" class="button text-xs" @click="takeOver">
      Take it over
    </button>
    <button type="button" class="button text-xs" @click="profileEditing.saveFrom(destination)">
      Keep as profile
    </button>
  </div>
</template>
