import {
  type Codec,
  type Computer,
  type Effort,
  efforts,
  type Throughput,
} from '@green-mantle/core/show'

/** Megapixels per second from the fastest effort to the finest; invented, like the computers. */
const speeds = (codec: Codec, megapixelsPerSecond: readonly number[]): Throughput[] =>
  megapixelsPerSecond.map((speed, index) => ({
    codec,
    effort: efforts[index] as Effort,
    megapixelsPerSecond: speed,
  }))

/** The computers that ship with the application; both are invented. */
export const demoComputers: Computer[] = [
  {
    name: 'Potting-shed desktop',
    freeDiskGigabytes: 118,
    measured: null,
    devices: [
      {
        id: 'desktop-processor',
        name: 'Processor, 8 cores',
        kind: 'processor',
        plannedSharePercent: 80,
        sessions: null,
        largest: { width: 7680, height: 4320 },
        throughputs: [
          ...speeds('h264', [620, 390, 230, 130, 70]),
          ...speeds('hevc', [210, 120, 60]),
          ...speeds('av1', [190, 80]),
        ],
      },
      {
        id: 'desktop-graphics',
        name: 'Graphics encoder',
        kind: 'graphics',
        plannedSharePercent: 80,
        sessions: 3,
        largest: { width: 4096, height: 4096 },
        throughputs: [
          ...speeds('h264', [1500, 1200, 900, 640, 420]),
          ...speeds('hevc', [1300, 1000, 760, 520, 340]),
        ],
      },
    ],
  },
  {
    name: 'Travel laptop',
    freeDiskGigabytes: 42,
    measured: null,
    devices: [
      {
        id: 'laptop-processor',
        name: 'Processor, 4 cores',
        kind: 'processor',
        plannedSharePercent: 70,
        sessions: null,
        largest: { width: 4096, height: 4096 },
        throughputs: [...speeds('h264', [300, 180, 105, 60, 30]), ...speeds('hevc', [90, 50])],
      },
      {
        id: 'laptop-graphics',
        name: 'Built-in graphics encoder',
        kind: 'graphics',
        plannedSharePercent: 80,
        sessions: 2,
        largest: { width: 4096, height: 2304 },
        throughputs: [...speeds('h264', [700, 540, 380, 260]), ...speeds('hevc', [520, 380, 240])],
      },
    ],
  },
]
