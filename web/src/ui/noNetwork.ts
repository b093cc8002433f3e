/** For tests: what would be fetched never comes. A part of the page must stand without it. */
globalThis.fetch = () => new Promise(() => undefined)
