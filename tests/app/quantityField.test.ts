import {
  audioBitrateKbpsSchema,
  bFramesSchema,
  keyframeIntervalSecondsSchema,
  lineSampleSchema,
  videoBitrateKbpsSchema,
} from '@green-mantle/core/show'
import { mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'
import { quantities } from '~/components/fields/quantities'
import QuantityField from '~/components/fields/QuantityField.vue'

beforeEach(() => setActivePinia(createPinia()))

it('as a cell is heard with its unit, which the column shows, and as a field shows it', () => {
  const props = { quantity: 'video bitrate', modelValue: 6000, label: 'Longmeadow' } as const
  const cell = mount(QuantityField, { props: { ...props, cell: true } })
  expect(cell.get('label').text()).toBe('Longmeadow, kb/s')
  expect(cell.get('label').classes()).toContain('sr-only')
  expect(cell.find('[aria-hidden]').exists()).toBe(false)
  const field = mount(QuantityField, { props })
  expect(field.get('label').text()).toBe('Longmeadow')
  expect(field.get('[aria-hidden]').text()).toBe('kb/s')
})

it('reads its units, and says what it takes where it is too much', async () => {
  const field = mount(QuantityField, {
    props: { quantity: 'video bitrate', modelValue: 6000, label: 'Most video' },
  })
  await field.get('input').setValue('4.5 Mb/s')
  expect(field.emitted('update:modelValue')).toEqual([[4500]])
  await field.get('input').setValue('300 Mb/s')
  expect(field.get('[role=alert]').text()).toBe('Most video: from 50 to 200000 kb/s')
  expect(field.emitted('update:modelValue')).toHaveLength(1)
})

it('is emptied only where it may be', async () => {
  const mounted = (optional: boolean) =>
    mount(QuantityField, {
      props: { quantity: 'loss', modelValue: 1 as number | null, label: 'Lost', optional },
    })
  const must = mounted(false)
  await must.get('input').setValue('')
  expect(must.emitted('update:modelValue')).toBeUndefined()
  const may = mounted(true)
  await may.get('input').setValue('')
  expect(may.emitted('update:modelValue')).toEqual([[null]])
})

it('offers no value that a show would refuse', () => {
  const { shape } = lineSampleSchema
  const schemas = [
    ['video bitrate', videoBitrateKbpsSchema],
    ['audio bitrate', audioBitrateKbpsSchema],
    ['keyframe interval', keyframeIntervalSecondsSchema],
    ['B-frames', bFramesSchema],
    ['round trip', shape.roundTripMilliseconds],
    ['loss', shape.lossPercent],
  ] as const
  for (const [name, schema] of schemas) {
    const { min, max } = quantities[name]
    for (const value of [min, max]) expect(schema.safeParse(value).success, name).toBe(true)
  }
})
