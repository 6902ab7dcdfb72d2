/** What starter parts are painted with: one quiet set of colours and letters, to be changed to one's own. */

export const ink = '#26232c';
export const deep = '#1f4e5f';
export const pale = '#f3ead9';
export const line = { color: '#c9bda4', width: 1 };
export const white = '#ffffff';
export const none = '#ffffff00';

export const words = { size: 16, place: 'middle' } as const;
export const label = { size: 16, weight: 600, align: 'center', place: 'middle' } as const;
export const small = { size: 14, place: 'middle' } as const;

/** Looks of something that is pressed. */
export const pressable = {
  hover: { style: { fill: '#2b6678' } },
  press: { style: { fill: '#163b48' }, ms: 60 },
  focus: { style: { line: { color: '#e59a00', width: 3 } } },
  disabled: { style: { opacity: 0.4 } },
} as const;

/** The same on a light ground. */
export const lightly = {
  hover: { style: { fill: '#e8dcc4' } },
  press: { style: { fill: '#d9caab' }, ms: 60 },
  focus: { style: { line: { color: '#e59a00', width: 3 } } },
} as const;
