/** What no page and no sentence says: marks of a program, a figure for one of many, a word, a figure or a stop twice, a date as a program writes it. */
export const ODD: readonly (readonly [string, RegExp])[] = [
  ['a mark of a program', /\bundefined\b|\bNaN\b|\bInfinity\b|\[object |⁅|⁆|\bnull\b|\{\{|\$\{/],
  ['two stops', /[^.]\.\.(?!\.)|,,|;;| [.;,](?=\s|$)|\.;|:\./],
  ['a word twice', /\b(\p{L}{2,}) \1\b/iu],
  ['a figure twice', /(?<![\d.,])(\d[\d.,]*[ \u00a0]?(?:mm|m|kg|m³|m²|°C|%|ft|lb|"|'))(?:[ ,;:]| \()+\1(?![\w²³])/],
  [
    'one of many',
    /(?<![\d.,/:–-] ?)\b1 (?:lorries|tests|lifts|courses|units|stones|blocks|walls|entries|steps|days|hours|minutes|layers|rolls|readings|photos|findings|points|loads|crews|people|pieces|devices|sessions|looks|gabions|baskets|mats|pallets|trucks|outlets|sections|lines|weeks|years|months)\b/,
  ],
  ['a time as a program writes it', /\d{4}-\d\d-\d\dT\d\d:\d\d/],
  ['a day as a program writes it', /(?<![\w-])(?:19|20)\d\d-\d\d-\d\d(?![\w-])/],
]
/** Lines of what is said that are odd, each once. @example oddly('1 lifts..') // ['two stops: 1 lifts..', 'one of many: 1 lifts..'] */
export const oddly = (text: string, rules = ODD): string[] => [
  ...new Set(text.split('\n').flatMap((line) => rules.flatMap(([what, is]) => (is.test(line) ? [`${what}: ${line.trim().slice(0, 160)}`] : [])))),
]
