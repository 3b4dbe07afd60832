/** MediaStreamTrack Insertable Media Processing using Streams (W3C), which the DOM's types do not have yet. */
declare class MediaStreamTrackProcessor {
  constructor(options: { track: MediaStreamTrack; maxBufferSize?: number })
  readonly readable: ReadableStream<VideoFrame>
}
interface HTMLMediaElement {
  captureStream(): MediaStream
}
