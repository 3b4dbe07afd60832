<script setup lang="ts">
import { daysLater, nextShow } from '@green-mantle/core/night'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { wordsFor } from '~/api/problem'
import { createShow } from '~/api/shows'
import DateTimeField from '~/components/fields/DateTimeField.vue'
import { useShowStore } from '~/stores/show'

/** The next show of the row, made from this one. */
const store = useShowStore()
const router = useRouter()

const weekDays = 7
const startsAt = ref(daysLater(store.show.startsAt, weekDays))
const problem = ref('')
const isMaking = ref(false)
async function make(): Promise<void> {
  isMaking.value = true
  problem.value = ''
  try {
    const { id } = await createShow(nextShow(store.show, startsAt.value))
    await router.push(`/shows/${id}/destinations`)
  } catch (error) {
    problem.value = wordsFor(error)
  } finally {
    isMaking.value = false
  }
}
</script>

<template>
  <section class="card p-4" aria-labelledby="next-title">
    <h2 id="next-title" class="text-lg">Make the next one from this</h2>
    <p>
      Arrangement, words, destinations and run sheet are kept; dates move. Keys are wanted again,
      since they belong to a show; it is to be rehearsed and looked through anew.
    </p>
    <div class="mt-2 flex flex-wrap items-end gap-2">
      <DateTimeField v-model="startsAt" label="Starts" required />
      <button type="button" class="button button-primary" :disabled="isMaking" @click="make">
        Make it
      </button>
    </div>
    <p v-if="problem" role="alert" class="text-madder mt-2">{{ problem }}</p>
  </section>
</template>
