import {
  type Codec,
  type Computer,
  type Device,
  type Effort,
  freeName,
  newDevice,
  withoutGoneDevices,
} from '@green-mantle/core/show'
import { withLoadCorrected, withPlannedShare } from '@green-mantle/core/measured'
import { measuredEfficiency } from '@green-mantle/core/media'
import { nanoid } from 'nanoid'
import { useShowStore } from '~/stores/show'

/** What can be done to the show's computer; every call is one edit of the show. */
export function useComputerEditing() {
  const store = useShowStore()

  /** Changes the computer, and lets go of devices that are no more. */
  function edit(label: string, recipe: (computer: Computer) => void): void {
    store.edit(label, (draft) => {
      recipe(draft.computer)
      const { destinations, recordings } = withoutGoneDevices(draft)
      Object.assign(draft, { destinations, recordings })
    })
  }

  function take(computer: Computer): void {
    const copy = JSON.parse(JSON.stringify(computer)) as Computer
    edit(`Use ${computer.name}`, (draft) => Object.assign(draft, copy))
  }

  function change(label: string, changes: Partial<Computer>): void {
    edit(label, (draft) => {
      Object.assign(draft, changes)
    })
  }

  function changeDevice({ id, name }: Device, changes: Partial<Device>): void {
    edit(`Set ${name}`, ({ devices }) => {
      const device = devices.find((item) => item.id === id)
      if (device) Object.assign(device, changes)
    })
  }

  function setSpeed(
    device: Device,
    codec: Codec,
    effort: Effort,
    megapixelsPerSecond: number | null,
  ): void {
    const others = device.throughputs.filter(
      (speed) => speed.codec !== codec || speed.effort !== effort,
    )
    // What it gets out of a bit is no matter of its speed, and stays.
    const efficiency = measuredEfficiency(device, { codec, effort })
    const typed = {
      ...{ codec, effort },
      ...(efficiency !== undefined && { efficiency }),
    }
    changeDevice(device, {
      throughputs:
        megapixelsPerSecond === null ? others : [...others, { ...typed, megapixelsPerSecond }],
    })
  }

  function addDevice(): void {
    const names = store.show.computer.devices.map(({ name }) => name)
    const device = newDevice(nanoid(12), freeName('Device', names))
    edit(`Add ${device.name}`, ({ devices }) => {
      devices.push(device)
    })
  }

  function removeDevice({ id, name }: Device): void {
    edit(`Remove ${name}`, (computer) => {
      computer.devices = computer.devices.filter((device) => device.id !== id)
    })
  }

  /** The speeds as a trial measured them, by what it took of the processor against what was planned. */
  function takeMeasuredSpeeds(factor: number): void {
    edit('Take the measured speeds', (computer) =>
      Object.assign(computer, withLoadCorrected(computer, factor)),
    )
  }

  /** Leaves of the processor what decoding and scaling take. */
  function planProcessorUpTo(percent: number): void {
    edit(`Plan the processor up to ${percent} %`, (computer) =>
      Object.assign(computer, withPlannedShare(computer, percent)),
    )
  }

  return {
    take,
    takeMeasuredSpeeds,
    planProcessorUpTo,
    change,
    changeDevice,
    setSpeed,
    addDevice,
    removeDevice,
  }
}
