<script setup lang="ts">
import { daysLater, learntOf, nextShow, withLearnt } from '@green-mantle/core/night'
import { mbpsInWords } from '@green-mantle/core/words'
import { nanoid } from 'nanoid'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { wordsFor } from '~/api/problem'
import { createShow } from '~/api/shows'
import DateTimeField from '~/components/fields/DateTimeField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import { useShowStore } from '~/stores/show'
import { saidAt } from './nightTimes'
import { useWrappedNight } from './wrappedNight'

/** The next show of the row, made from this one. */
const store = useShowStore()
const router = useRouter()
const { wrapped } = useWrappedNight()
const learnt = computed(() => learntOf(store.show, wrapped.value))
const takesSamples = ref(true)
const takesLoads = ref(true)
const next = () =>
  withLearnt(
    nextShow(store.show, startsAt.value),
    {
      samples: takesSamples.value ? learnt.value.samples : [],
      loadFactor: takesLoads.value ? learnt.value.loadFactor : null,
    },
    () => nanoid(12),
  )

const weekDays = 7
const startsAt = ref(daysLater(store.show.startsAt, weekDays))
const problem = ref('')
const isMaking = ref(false)
async function make(): Promise<void> {
  isMaking.value = true
  problem.value = ''
  try {
    const { id } = await createShow(next())
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
    <ul
      v-if="learnt.samples.length > 0 || learnt.loadFactor !== null"
      class="mt-2 flex flex-col gap-1.5"
    >
      <li v-if="learnt.samples.length > 0" class="flex items-center gap-2">
        <OnSwitch v-model="takesSamples" label="Take what the line carried into its measurements" />
        <span
          >The line as measured where it was short:
          <template v-for="(sample, index) in learnt.samples" :key="sample.measuredAt"
            >{{ index > 0 ? ', ' : '' }}{{ mbpsInWords(sample.uploadKbps) }} at
            {{ saidAt(sample.measuredAt, store.show.timeZone) }}</template
          >.</span
        >
      </li>
      <li v-if="learnt.loadFactor !== null" class="flex items-center gap-2">
        <OnSwitch v-model="takesLoads" label="Take what the encodes took of the processor" />
        <span
          >The processor as it was measured: encodes took
          <span class="number">{{ learnt.loadFactor.toFixed(2) }}</span> times what was
          planned.</span
        >
      </li>
    </ul>
    <div class="mt-2 flex flex-wrap items-end gap-2">
      <DateTimeField v-model="startsAt" label="Starts" required />
      <button type="button" class="button button-primary" :disabled="isMaking" @click="make">
        Make it
      </button>
    </div>
    <p v-if="problem" role="alert" class="text-madder mt-2">{{ problem }}</p>
  </section>
</template>
