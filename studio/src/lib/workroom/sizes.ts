/** The sizes that a new piece can have, CSS px. */
export const sizes = [
  { id: 'phone', label: 'Phone', width: 390, height: 844 },
  { id: 'tablet', label: 'Tablet', width: 820, height: 1180 },
  { id: 'desktop', label: 'Desktop', width: 1280, height: 800 },
  { id: 'kiosk', label: 'Kiosk', width: 1080, height: 1920 },
  { id: 'banner', label: 'Banner', width: 300, height: 250 },
] as const;
