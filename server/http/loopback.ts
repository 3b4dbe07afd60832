import type { H3Event } from 'h3'

/** Whether a request came over this machine's own loopback; nothing else may call itself by its names. */
export const isFromHere = (event: H3Event): boolean =>
  /^(::1|(::ffff:)?127\.)/.test(event.node.req.socket.remoteAddress ?? '')
