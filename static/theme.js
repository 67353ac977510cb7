// Before the first paint: the light that was chosen, else the system's. The app takes over from here.
(function () {
	var chosen = null;
	try {
		chosen = localStorage.getItem('silent-drawer.theme');
	} catch (error) {
		void error; // A browser that keeps nothing: the system's light it is.
	}
	if (chosen !== 'daylight' && chosen !== 'lamplight')
		chosen = matchMedia('(prefers-color-scheme: dark)').matches ? 'lamplight' : 'daylight';
	document.documentElement.dataset.theme = chosen;
})();
