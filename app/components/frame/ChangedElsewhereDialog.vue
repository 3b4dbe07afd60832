<script setup lang="ts">
import type { Difference } from '@green-mantle/core/show'
import { reactive } from 'vue'
import { useShowStore } from '~/stores/show'
import ModalDialog from './ModalDialog.vue'

const emit = defineEmits<{ close: [] }>()
const store = useShowStore()
const placesOfTheirs = reactive(new Set<string>())

function valueInWords(value: unknown): string {
  if (value === undefined) return 'not there'
  if (value === null) return 'none'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value !== 'object') return String(value)
  if (Array.isArray(value)) return `${value.length} entries`
  return 'name' in value ? `“${String(value.name)}”` : 'there'
}

const saysMine = ({ changedBy }: Difference): boolean => changedBy === 'mine'

function choose(place: string, side: 'mine' | 'theirs'): void {
  if (side === 'theirs') placesOfTheirs.add(place)
  else placesOfTheirs.delete(place)
}

function settle(): void {
  store.settle(placesOfTheirs)
  emit('close')
}

function takeTheirs(): void {
  store.takeTheirs()
  emit('close')
}
</script>

<template>
  <ModalDialog
    title="This show was saved elsewhere"
    description="Another tab or person saved it while you were editing. Nothing is lost: choose what counts where you both changed the same thing. Undo leads back to your own version."
    width="wide"
    @close="$emit('close')"
  >
    <div class="max-h-[50vh] overflow-y-auto" tabindex="0" role="region" aria-label="Differences">
      <table class="w-full">
        <thead>
          <tr class="border-rule text-ink-2 border-b text-xs">
            <th class="py-1 pr-3">Where</th>
            <th class="py-1 pr-3">Here</th>
            <th class="py-1">Elsewhere</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(difference, row) in store.differences"
            :key="difference.place"
            class="border-rule border-b align-top"
          >
            <th scope="row" class="py-1.5 pr-3 font-normal">{{ difference.place }}</th>
            <template v-if="difference.changedBy === 'both'">
              <td v-for="side in ['mine', 'theirs'] as const" :key="side" class="py-1 pr-3">
                <label class="flex items-center gap-1.5">
                  <input
                    type="radio"
                    class="accent-moss size-4"
                    :name="`difference-${row}`"
                    :checked="placesOfTheirs.has(difference.place) === (side === 'theirs')"
                    @change="choose(difference.place, side)"
                  />
                  <span class="number">{{ valueInWords(difference[side]) }}</span>
                </label>
              </td>
            </template>
            <template v-else>
              <td class="number py-1.5 pr-3">
                {{ valueInWords(difference.mine) }}
                <span v-if="saysMine(difference)" class="text-ink-2">taken</span>
              </td>
              <td class="number py-1.5">
                {{ valueInWords(difference.theirs) }}
                <span v-if="!saysMine(difference)" class="text-ink-2">taken</span>
              </td>
            </template>
          </tr>
        </tbody>
      </table>
    </div>
    <div class="mt-4 flex justify-end gap-2">
      <button type="button" class="button" @click="takeTheirs">Take all from elsewhere</button>
      <button type="button" class="button button-primary" @click="settle">
        Save both together as chosen
      </button>
    </div>
  </ModalDialog>
</template>
