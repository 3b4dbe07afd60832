import { gzipSync } from 'node:zlib'
import type { Page } from '@playwright/test'

/** Gzipped JavaScript that a page loads for its first view, in kB; the page has to be a fresh one. */
export async function scriptKilobytes(page: Page, address: string): Promise<number> {
  const bodies: Promise<Buffer>[] = []
  page.on('response', (response) => {
    if (response.request().resourceType() === 'script' && response.ok())
      bodies.push(response.body())
  })
  await page.goto(address, { waitUntil: 'networkidle' })
  const sizes = (await Promise.all(bodies)).map((body) => gzipSync(body).length)
  return sizes.reduce((sum, size) => sum + size, 0) / 1000
}
