import type { Box } from './floor';

/** A button that a spare switch may stand in for. */
export interface DeputyChoice {
	page: string;
	pageName: string;
	button: string;
	buttonName: string;
	short: string;
	long: string;
}

/** The page whose buttons a page shows: itself, or the one that it follows, through however many. */
export function shownPage(box: Box, pageId: string): Box['pages'][number] | null {
	const seen = new Set<string>();
	let page = box.pages.find(({ id }) => id === pageId) ?? null;
	while (page?.follows) {
		if (seen.has(page.id)) return null;
		seen.add(page.id);
		page = box.pages.find(({ id }) => id === page!.follows) ?? null;
	}
	return page;
}

/** Everything that a spare switch can stand in for: buttons that do something, of pages that are their own. */
export const deputyChoices = (box: Box): DeputyChoice[] =>
	box.pages
		.filter(({ follows }) => follows === null)
		.flatMap((page) =>
			page.buttons
				.filter(({ short, long }) => short || long)
				.map(({ id, name, short, long }) => ({
					page: page.id,
					pageName: page.name,
					button: id,
					buttonName: name,
					short,
					long
				}))
		);

/** Choices by the name of a function, short or long, or of the button; those that begin with it first. */
export function findChoices(box: Box, words: string): DeputyChoice[] {
	const wanted = words.trim().toLowerCase();
	const names = ({ short, long, buttonName, pageName }: DeputyChoice) =>
		[short, long, `${pageName} ${buttonName}`].map((each) => each.toLowerCase());
	const begins = (choice: DeputyChoice) => names(choice).some((name) => name.startsWith(wanted));
	return deputyChoices(box)
		.filter((choice) => names(choice).some((name) => name.includes(wanted)))
		.sort((a, b) => Number(begins(b)) - Number(begins(a)));
}

/** In how many ways the spares of a box can be deputies, each of one button at most and no button twice. */
export function deputyWays(box: Box): bigint {
	const buttons = BigInt(deputyChoices(box).length);
	const spares = box.spares.length;
	// Choose k of the spares, and give each a button of its own: Σ C(s, k) · n!/(n−k)!.
	let [ways, choose, given] = [1n, 1n, 1n];
	for (let k = 1; k <= spares && BigInt(k) <= buttons; k++) {
		choose = (choose * BigInt(spares - k + 1)) / BigInt(k);
		given *= buttons - BigInt(k - 1);
		ways += choose * given;
	}
	return ways;
}

/** What is odd about the deputies of a box. */
export interface DeputyTrouble {
	spare: string;
	says: string;
}

export function deputyTroubles(box: Box): DeputyTrouble[] {
	const spareName = (id: string) => box.spares.find((spare) => spare.id === id)?.name ?? id;
	return box.deputies.flatMap(({ spare, page: pageId, button: buttonId }, i): DeputyTrouble[] => {
		const name = spareName(spare);
		const page = box.pages.find(({ id }) => id === pageId);
		const button = page?.buttons.find(({ id }) => id === buttonId);
		const others = box.deputies.filter(
			(other, o) => o < i && other.page === pageId && other.button === buttonId
		);
		const again = box.deputies.some((other, o) => o < i && other.spare === spare);
		const found: string[] = [];
		if (!box.spares.some(({ id }) => id === spare)) found.push(`${box.name} has no switch ${spare}.`);
		if (again) found.push(`${name} is a deputy twice: a switch can stand in for one button.`);
		if (!page) found.push(`${name} stands in for a button of a page that is gone.`);
		else if (page.follows !== null)
			found.push(
				`${name} stands in for a button of ${page.name}, which shows ${shownPage(box, page.id)?.name ?? 'nothing'}: choose the button there.`
			);
		else if (!button) found.push(`${name} stands in for a button that ${page.name} has not.`);
		else if (!button.short && !button.long)
			found.push(`${name} stands in for ${page.name} ${button.name}, which does nothing.`);
		if (others.length > 0)
			found.push(
				`${name} and ${others.map(({ spare: other }) => spareName(other)).join(', ')} stand in for the same button.`
			);
		const followers = box.pages.filter(({ follows }) => follows === pageId);
		if (page && followers.length > 0)
			found.push(
				`${page.name} is followed by ${followers.map((each) => each.name).join(', ')}: a change of its button changes what ${name} does, there, too.`
			);
		return found.map((says) => ({ spare, says }));
	});
}

/** What a press does. */
export interface Pressed {
	does: string;
	/** Whose function it is. */
	of: string;
	/** Why nothing happens; empty where something does. */
	why: string;
}

const nothing = (why: string): Pressed => ({ does: '', of: '', why });

/** A spare switch is pressed: whatever page is showing, it does what the button does that it stands in for. */
export function pressSpare(box: Box, spare: string, how: 'short' | 'long'): Pressed {
	const deputy = box.deputies.find((each) => each.spare === spare);
	if (!deputy) return nothing('It stands in for no button.');
	return pressOn(box, deputy.page, deputy.button, how);
}

/** A button of a page is pressed: what the page shows there happens. */
export function pressOn(box: Box, pageId: string, buttonId: string, how: 'short' | 'long'): Pressed {
	const page = shownPage(box, pageId);
	const button = page?.buttons.find(({ id }) => id === buttonId);
	if (!page || !button) return nothing('There is no such button.');
	const does = button[how];
	return does
		? { does, of: `${page.name} ${button.name}`, why: '' }
		: nothing(`${page.name} ${button.name} has no function for a ${how} press.`);
}
