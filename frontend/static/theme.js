// Runs before the page is drawn, so that night shift does not flash white.
try {
  var kept = localStorage.getItem('orthotorq-theme');
  if (kept === 'dark' || (!kept && matchMedia('(prefers-color-scheme: dark)').matches))
    document.documentElement.classList.add('dark');
} catch (e) {
  // storage refused: the light theme stays
}
