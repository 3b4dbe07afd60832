import logger from 'node-media-server/src/core/logger.js'

/* The library tells of every message that it does not know, in the words of whoever sent it: a peer would fill the log. */
logger.log = () => {}
