/** How many of each a show may hold: more than anybody plans with, few enough to be kept and drawn. */
export const mostOf = {
  sources: 200,
  scenes: 100,
  layers: 200,
  sounds: 50,
  lines: 20,
  otherTraffic: 100,
  destinations: 50,
  coverZones: 60,
  recordings: 10,
  keptPlans: 20,
  incidents: 50,
  people: 20,
} as const
