/** The words of choices that several benches offer. */

export const KINDS = [
  ["canopy", "Canopy"],
  ["bimini", "Bimini"],
  ["arch", "Stern arch"],
  ["cabin_top", "Cabin top"],
  ["deck", "Deck"],
  ["rail", "Rail panels"],
  ["wing", "Hinged wing"],
  ["loose", "Loose panel"],
  ["shore", "Dock or shore rack"],
] as const;
export const SIDES = [
  ["starboard", "to starboard"],
  ["port", "to port"],
  ["bow", "to the bow"],
  ["stern", "to the stern"],
] as const;
export const AIR = [
  ["open", "air behind"],
  ["on_surface", "lying on it"],
] as const;

export const STATES = [
  ["under_way", "under way"],
  ["sailing", "sailing"],
  ["anchored", "at anchor"],
  ["dock", "at the dock"],
  ["trailer", "on the trailer"],
] as const;
export const HOWS = [
  ["set", "as set"],
  ["tilted", "at a tilt"],
  ["folded", "folded"],
  ["covered", "covered"],
  ["gone", "gone"],
] as const;
export const TENDED = [
  ["left", "left as it is"],
  ["thrice", "set three times"],
  ["followed", "kept at its best"],
] as const;
export const UNDER = [
  ["water", "open water"],
  ["white", "a white roof"],
  ["deck", "a light deck"],
  ["dark", "something dark"],
] as const;
export const FASTENINGS = [
  ["bolts", "bolts"],
  ["clamps", "clamps"],
  ["hinges", "hinges"],
  ["ties", "ties"],
] as const;
export const BUILDS = [
  ["glass", "glass"],
  ["flexible", "flexible"],
  ["folding", "folding, in cloth"],
] as const;
export const SETS = [
  ["both", "planned and built"],
  ["planned", "planned only"],
  ["built", "built only"],
] as const;
export const SHAPES = [
  ["spar", "a round spar"],
  ["box", "an upright box"],
  ["sail", "a sail"],
] as const;
