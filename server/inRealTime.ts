/**
 * For a test that was seen to fail because a busy machine was late with what it sends in real time: it
 * is tried again. What is wrong is wrong every time.
 */
export const inRealTime = { retry: 2 } as const
