import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type BrowserContext, type Page } from '@playwright/test';
import { buildSync } from 'esbuild';
import type { PanelView } from '../../src/lib/core/bench';
import type { StandInPort } from './midi-access';

const root = join(import.meta.dirname, '../..');
/** What a simulated device is built to: its profile, or what it is inside where none describes it. */
export const profile = (id: string): unknown => {
	const shipped = join(root, 'profiles', `${id}.json`);
	return JSON.parse(
		readFileSync(existsSync(shipped) ? shipped : join(root, 'insides', `${id}.json`), 'utf8')
	);
};

let script: string | null = null;
const bundled = () =>
	(script ??= buildSync({
		entryPoints: [join(import.meta.dirname, 'midi-access.ts')],
		bundle: true,
		write: false,
		format: 'iife',
		target: 'chrome120'
	}).outputFiles[0].text);

/** The planetarium's interface as the computer shows it, with the devices on the ports that the demo's wiring has them on. */
export const FERRY: StandInPort[] = [
	{
		name: 'Ferry 8 Port 1',
		devices: [{ profile: profile('vellbrook-orrery'), settings: { protect: 0, deviceId: 0 }, seed: 101 }]
	},
	{
		name: 'Ferry 8 Port 2',
		devices: [{ profile: profile('tarnow-parallax'), settings: { protect: 0, deviceId: 1 }, seed: 102 }]
	},
	{
		name: 'Ferry 8 Port 3',
		devices: [{ profile: profile('tarnow-parallax'), settings: { protect: 0, deviceId: 2 }, seed: 103 }]
	},
	{
		name: 'Ferry 8 Port 4',
		devices: [{ profile: profile('ternhill-umbra'), settings: { deviceId: 9 }, seed: 104 }]
	},
	{ name: 'Ferry 8 Port 5', devices: [], loopback: true }
];

/** Puts the stand-in into every page of the context, before the app's own script. */
export async function injectMidi(
	context: BrowserContext,
	{
		ports = FERRY,
		refuse = false,
		speed = 4
	}: { ports?: StandInPort[]; refuse?: boolean; speed?: number } = {}
): Promise<void> {
	await context.addInitScript({
		content: `window.standInOrder = ${JSON.stringify({ ports, refuse, speed })};\n${bundled()}`
	});
}

export interface StandIn {
	unplug(): void;
	plug(): void;
	fault(port: number, faults: unknown[]): void;
	press(port: number): void;
	say(port: number, messages: number[][]): void;
	dump(port: number, device: number): void;
	records(port: number, device: number, area: string): string[];
	rename(port: number, device: number, area: string, index: number, name: string): void;
	turn(port: number, device: number, index: number): void;
	panel(port: number, device: number): PanelView;
	switchOn(port: number, device: number, held: boolean): void;
	flood(port: number, perSecond: number, seconds: number): Promise<number>;
}

/** Goes over to the computer's ports and says which is which. */
export async function useHardware(page: Page): Promise<void> {
	await page.goto('/transfers/ports');
	await page.getByRole('radio', { name: /Hardware/ }).click();
	await expect(page.getByRole('heading', { name: 'Which port is which' })).toBeVisible();
	const match = page.getByRole('button', { name: 'Match by name' });
	if (await match.isVisible()) await match.click();
	await expect(page.getByLabel('Port of the computer that Ferry 8 Out 1 out is')).toHaveValue('out-0');
	await expect(page.getByLabel('Port of the computer that Ferry 8 In 5 in is')).toHaveValue('in-4');
}

/** Does something with the stand-in of the page. */
export const standIn = <K extends keyof StandIn>(
	page: Page,
	what: K,
	...given: Parameters<StandIn[K]>
): Promise<Awaited<ReturnType<StandIn[K]>>> =>
	page.evaluate(
		([name, list]) =>
			(window as unknown as { standIn: Record<string, (...of: unknown[]) => unknown> }).standIn[name](
				...list
			),
		[what, given] as [string, unknown[]]
	) as Promise<Awaited<ReturnType<StandIn[K]>>>;
