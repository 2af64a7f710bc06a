/** Classes of soil a hand can tell, and ground that people tipped. */
export const SOIL_CLASSES = [
  'made-ground',
  'clean-gravel',
  'dirty-gravel',
  'clean-sand',
  'silty-sand',
  'silt',
  'lean-clay',
  'fat-clay',
  'organic',
] as const
export type SoilClass = (typeof SOIL_CLASSES)[number]

/** How slender a dry wall may be, by the soil it leans on: the name of its limit. Unsaid is taken for fine. */
export const slenderIn = (soil: SoilClass | undefined): 'slenderness' | 'slendernessSilty' | 'slendernessFine' =>
  soil === 'clean-gravel' || soil === 'clean-sand'
    ? 'slenderness'
    : soil === 'silty-sand' || soil === 'dirty-gravel'
      ? 'slendernessSilty'
      : 'slendernessFine'
