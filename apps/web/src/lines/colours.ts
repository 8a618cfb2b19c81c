/** The theme's colours as canvases want them. */
export function themeColours(): (name: string) => string {
  const style = getComputedStyle(document.documentElement);
  return (name) => style.getPropertyValue(`--${name}`).trim();
}
