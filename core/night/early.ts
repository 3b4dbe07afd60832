/** Nobody goes up so long before a show; whoever begins its night then has mistaken the day, or tries it. */
const earliestBeginSeconds = 12 * 3600

/** Whether a night that is begun `nowSeconds` from the start of its show, below zero before it, is begun days early. */
export const isBegunEarly = (nowSeconds: number): boolean => nowSeconds < -earliestBeginSeconds
