import { SaxesParser } from 'saxes'
import { fail, ok, type Result } from '../../base/result'

/** An element as read: its name without namespace prefix, and what stands in it. */
export interface XmlElement {
  readonly name: string
  readonly attributes: Readonly<Record<string, string>>
  readonly children: readonly XmlElement[]
  /** Its own text, without its children's; pieces between children are parted by a blank. */
  readonly text: string
}
type Growing = { -readonly [K in keyof XmlElement]: XmlElement[K] } & { readonly children: Growing[] }

/** So much of the text is handed over at once; between two portions the progress is told. */
const PORTION = 1 << 20
const bare = (name: string) => (name.includes(':') ? name.slice(name.indexOf(':') + 1) : name)

/**
 * The tree of an XML file, read in one pass that also sees whether it is whole. Namespace prefixes are dropped.
 * Entities are those of XML itself and numbers of characters; any other is refused by its line.
 *
 * @param wanted - children of the root whose contents are kept; of all others only the name is
 * @param progress - told now and then what share of the text is read, 0 to 1; it may throw to end the reading
 * @example readXml('<a><b n="1">2</b></a>', ['b']).value.children[0]?.text // '2'
 */
export function readXml(content: string, wanted: readonly string[], progress?: (share: number) => void): Result<XmlElement> {
  const keep = new Set(wanted)
  const parser = new SaxesParser<{ xmlns: false }>({ xmlns: false })
  const open: Growing[] = []
  let root: Growing | undefined
  /** How deep in an element of no interest. */
  let aside = 0
  let wrong: string | undefined
  parser.on('error', (error) => {
    wrong ??= error.message.replace(/^\d+:\d+: /, '')
    throw error
  })
  parser.on('opentag', (tag) => {
    if (aside > 0) {
      aside++
      return
    }
    const element: Growing = { name: bare(tag.name), attributes: tag.attributes, children: [], text: '' }
    const parent = open[open.length - 1]
    if (parent) parent.children.push(element)
    else root = element
    if (open.length === 1 && !keep.has(element.name)) aside = 1
    else open.push(element)
  })
  const said = (text: string) => {
    const at = open[open.length - 1]
    if (aside > 0 || !at || text.trim() === '') return
    at.text = at.text === '' ? text : `${at.text} ${text}`
  }
  parser.on('text', said)
  parser.on('cdata', said)
  parser.on('closetag', () => {
    if (aside > 1) aside--
    else if (aside === 1) aside = 0
    else open.pop()
  })
  for (let at = 0; ; at += PORTION) {
    try {
      if (at < content.length) parser.write(content.slice(at, at + PORTION))
      else parser.close()
    } catch (error) {
      if (wrong === undefined) throw error
      return fail('file', `is not whole XML: ${wrong.slice(0, 100)} (line ${parser.line})`)
    }
    if (at >= content.length) break
    progress?.(Math.min(1, (at + PORTION) / content.length))
  }
  return root ? ok(root) : fail('file', 'is not whole XML: it has no element')
}

/**
 * An attribute, whatever its namespace prefix.
 *
 * @example attributeOf(element, 'name')
 */
export function attributeOf(of: XmlElement, key: string): string | undefined {
  const own = of.attributes[key]
  if (own !== undefined) return own
  for (const k in of.attributes) if (k.length > key.length && bare(k) === key) return of.attributes[k]
  return undefined
}
