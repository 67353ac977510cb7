import { gzipSync } from 'node:zlib';

/**
 * The scripts that a page's first view needs, each with its size gzipped, in bytes: those that the page names, and what
 * these import before they can run. What is fetched later on demand is not among them.
 */
export async function firstView(page: string): Promise<Map<string, number>> {
	const response = await fetch(page);
	const told = (response.headers.get('link') ?? '') + (await response.text());
	const waiting = [...told.matchAll(/["'(<]\.?(\/_app\/immutable\/[^"')>]+\.js)/g)].map(
		(match) => new URL(match[1], page).href
	);
	const scripts = new Map<string, number>();
	for (let url = waiting.pop(); url; url = waiting.pop()) {
		if (scripts.has(url)) continue;
		const code = await (await fetch(url)).text();
		scripts.set(url, gzipSync(code).length);
		for (const [, path] of code.matchAll(/\b(?:from|import)\s*["'](\.[^"']+\.js)["']/g))
			waiting.push(new URL(path, url).href);
	}
	return scripts;
}
