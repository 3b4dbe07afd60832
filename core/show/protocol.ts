export const protocols = ['rtmp', 'rtmps', 'srt', 'whip'] as const
/** How a send travels to its ingest. */
export type Protocol = (typeof protocols)[number]
