/** What the tests use of the WebVTT parser, which brings no types. */
declare module 'webvtt-parser' {
  export class WebVTTParser {
    parse(
      text: string,
      kind: 'chapters',
    ): { cues: { startTime: number; endTime: number; text: string }[]; errors: unknown[] }
  }
}
