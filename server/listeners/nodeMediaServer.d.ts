/** What is used of node-media-server's protocol modules, which bring no types. */
declare module 'node-media-server/src/protocol/rtmp.js' {
  interface PublishMessage {
    streamName: string
  }
  export interface MediaPacket {
    /** FLV tag types: 8 sound, 9 picture, 18 data. */
    codec_type: number
    /** FLV's number of the codec, or its four-character code as a number. */
    codec_id: number
    /** 0 head of the sound, 1 sound, 2 head of the picture, 3 keyframe, 4 frame, 5 data, 6 other. */
    flags: number
    pts: number
    dts: number
    size: number
    /** Its first `size` bytes are the packet; the rest belongs to the next one. */
    data: Buffer
  }
  export default class Rtmp {
    static createMessage(packet: MediaPacket): Buffer
    handshakeState: number
    inPackets: Map<number, { capacity: number }>
    inChunkSize: number
    outChunkSize: number
    streamApp: string
    streamName: string
    streamId: number
    parserPacket: { capacity: number; header: { length: number; stream_id: number } }
    onConnectCallback: (request: { app: string; name: string }) => void
    onPushCallback: () => void
    onPlayCallback: () => void
    onPacketCallback: (packet: MediaPacket) => void
    onOutputCallback: (bytes: Buffer) => void
    parserData(bytes: Buffer): string | null
    packetAlloc(): void
    onPublish(message: PublishMessage): void
    onPlay(message: PublishMessage): void
    onDeleteStream(message: unknown): void
    sendACK(bytes: number): void
    sendStatusMessage(stream: number, level: string, code: string, description: string): void
  }
}

declare module 'node-media-server/src/protocol/flv.js' {
  import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
  interface FlvReader {
    onPacketCallback: (packet: MediaPacket) => void
    /** null, or what is wrong. */
    parserData(bytes: Buffer): string | null
  }
  const Flv: {
    new (): FlvReader
    createHeader(hasAudio: boolean, hasVideo: boolean): Buffer
    createMessage(packet: MediaPacket): Buffer
  }
  export default Flv
}

declare module 'node-media-server/src/core/logger.js' {
  const logger: { log: (message: string, level: string) => void }
  export default logger
}

declare module 'node-media-server/src/protocol/amf.js' {
  const Amf: {
    encodeAmf0Data(data: { cmd: string; method: string; dataObj: object }): Buffer
    decodeAmf0Data(bytes: Buffer): { cmd: string; method?: string; dataObj?: object }
  }
  export default Amf
}

declare module 'node-media-server/src/protocol/sps_info.js' {
  interface Size {
    width: number
    height: number
  }
  const parameterSets: {
    parseH264Sps(set: Buffer): Size | null
    parseH265Sps(set: Buffer): Size | null
  }
  export default parameterSets
}

declare module 'node-media-server/src/protocol/rtmp_client.js' {
  import type { Socket } from 'node:net'
  import Rtmp from 'node-media-server/src/protocol/rtmp.js'
  export default class RtmpClient extends Rtmp {
    socket: Socket | null
    connected: boolean
    /** What is told as the address of the application. */
    baseUri: string
    urlInfo: {
      host: string
      port: number
      app: string
      streamName: string
      query: Record<string, string>
    } | null
    handshakeReject: ((error: Error) => void) | null
    onHandshakeCallback: () => void
    onErrorCallback: (error: Error) => void
    onCloseCallback: () => void
    onStatusCallback: (code: string, info: { description?: string }) => void
    handleData: (bytes: Buffer) => void
    resetProtocolState(): void
    sendClientHandshake(): void
    rejectAllPending(error: Error): void
    sendConnect(): Promise<unknown>
    setChunkSize(bytes: number): void
    sendCommand(name: string, parts: { cmdObj: object; args: unknown[] }): Promise<unknown>
    sendCreateStream(): Promise<number>
    sendPublish(streamName: string): Promise<unknown>
  }
}
