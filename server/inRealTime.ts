/**
 * For tests of what is sent and heard in real time: a busy machine is late with it, so that they are
 * tried again. What is wrong is wrong every time.
 */
export const inRealTime = { retry: 2 } as const
