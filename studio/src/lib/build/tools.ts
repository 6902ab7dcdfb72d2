/** What a press on the stage does. */
export const tools = [
  { id: 'select', label: 'Select', key: 'V' },
  { id: 'hit', label: 'Hit area', key: 'H' },
  { id: 'box', label: 'Box', key: 'B' },
  { id: 'oval', label: 'Oval', key: 'O' },
  { id: 'text', label: 'Text', key: 'X' },
  { id: 'field', label: 'Field', key: 'F' },
] as const;

export type Tool = (typeof tools)[number]['id'];
