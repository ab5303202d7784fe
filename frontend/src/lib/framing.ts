/** Trade names of sizes, from the widest to the closest. */
export const SIZES = {
  EWS: 'extreme wide', WS: 'wide', MWS: 'medium wide', MS: 'medium', MCU: 'medium close', CU: 'close', ECU: 'extreme close',
} as const;
export const ANGLES = ['eye level', 'high', 'low', "bird's eye", "worm's eye", 'over the shoulder', 'point of view', 'tilted'] as const;
export const MOVES = ['static', 'pan', 'tilt', 'push in', 'pull out', 'arc', 'track', 'crane'] as const;
