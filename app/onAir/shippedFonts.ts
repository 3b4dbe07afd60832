/** A shipped font as a worker takes it, whose own set of fonts is empty. */
export interface ShippedFont {
  family: string
  bytes: ArrayBuffer
  descriptors: FontFaceDescriptors
}

const isFontFace = (rule: CSSRule): rule is CSSFontFaceRule => rule instanceof CSSFontFaceRule

/** The fonts that the page ships, as its style sheets name them. */
export async function shippedFonts(): Promise<ShippedFont[]> {
  const faces = [...document.styleSheets].flatMap((sheet) => [...sheet.cssRules].filter(isFontFace))
  return Promise.all(
    faces.flatMap(({ style, parentStyleSheet }) => {
      const value = (name: string): string => style.getPropertyValue(name)
      const [, address] = /url\("?([^")]+)"?\)/.exec(value('src')) ?? []
      if (!address) return []
      const family = value('font-family').replaceAll(/["']/g, '')
      return [
        fetch(new URL(address, parentStyleSheet?.href ?? location.href))
          .then((response) => response.arrayBuffer())
          .then((bytes) => ({
            ...{ family, bytes },
            descriptors: {
              weight: value('font-weight') || 'normal',
              style: value('font-style') || 'normal',
              unicodeRange: value('unicode-range') || 'U+0-10FFFF',
            },
          })),
      ]
    }),
  )
}
