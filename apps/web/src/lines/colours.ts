const known = new Map<string, Map<string, string>>();

/** The theme's colours as canvases want them. */
export function themeColours(): (name: string) => string {
  // Asking the page for a style has it lay out all that was just changed; colours change with the theme alone.
  const theme = document.documentElement.dataset['theme'] ?? '';
  const colours = known.get(theme) ?? new Map<string, string>();
  known.set(theme, colours);
  return (name) => {
    let colour = colours.get(name);
    if (colour === undefined) colours.set(name, (colour = getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim()));
    return colour;
  };
}
