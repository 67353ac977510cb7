import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Owed } from './owed';

interface Order {
	says: string;
}
const orderOf = (says: string): Order => ({ says });

/** A server that answers when it is let: what it was told, how many tell it at a time, and what would be kept for later. */
function slowServer(...earlier: Order[]) {
	const told: string[] = [];
	const waiting: { done: () => void; fail: () => void }[] = [];
	let kept: string[] = earlier.map(({ says }) => says);
	let most = 0;
	const owed = new Owed<Order>(
		earlier,
		(order) =>
			new Promise<void>((resolve, reject) => {
				told.push(order.says);
				waiting.push({ done: resolve, fail: () => reject(new Error('Away.')) });
				most = Math.max(most, waiting.length);
			}),
		(orders) => (kept = orders.map(({ says }) => says))
	);
	const settle = () => new Promise((done) => setImmediate(done));
	return {
		owed,
		told,
		kept: () => kept,
		most: () => most,
		async answer() {
			waiting.shift()?.done();
			await settle();
		},
		async fail() {
			waiting.shift()?.fail();
			await settle();
		}
	};
}

describe('what the server is to be told', () => {
	it('is told in its order, though it is asked to be told while it is', async () => {
		const server = slowServer(orderOf('forgotten on the way out'));
		const first = server.owed.tell();
		const underWay = orderOf('under way');
		server.owed.add(underWay);
		await server.answer();
		expect(server.told).toEqual(['forgotten on the way out', 'under way']);
		// It is being told that it is under way when it has arrived.
		server.owed.replace(underWay, orderOf('arrived'));
		const second = server.owed.tell();
		expect(server.kept()).toEqual(['arrived']);
		await server.answer();
		await server.answer();
		await Promise.all([first, second]);
		expect(server.told).toEqual(['forgotten on the way out', 'under way', 'arrived']);
		expect(server.most()).toBe(1);
		expect(server.kept()).toEqual([]);
	});

	it('stays owed where it cannot be told, and whoever asked hears so', async () => {
		const server = slowServer();
		server.owed.add(orderOf('one'));
		server.owed.add(orderOf('two'));
		const asked = [server.owed.tell(), server.owed.tell()];
		const heard = Promise.all(asked.map((each) => expect(each).rejects.toThrow('Away.')));
		await server.fail();
		await heard;
		expect(server.kept()).toEqual(['one', 'two']);
		const again = server.owed.tell();
		await server.answer();
		await server.answer();
		await again;
		expect(server.told).toEqual(['one', 'one', 'two']);
	});

	it('is all told once at least, the newest last, whatever happens meanwhile', async () => {
		const happening = fc.constantFrom('add', 'add and tell', 'replace', 'tell', 'answer', 'fail');
		await fc.assert(
			fc.asyncProperty(fc.array(happening, { maxLength: 30 }), async (happens) => {
				const server = slowServer();
				const meant: Order[] = [];
				const tell = () => void server.owed.tell().catch(() => undefined);
				for (const [i, what] of happens.entries()) {
					const order = orderOf(String(i));
					if (what.startsWith('add')) {
						meant.push(order);
						server.owed.add(order);
					}
					if (what === 'replace' && meant.length > 0) {
						const before = meant.pop()!;
						meant.push(order);
						server.owed.replace(before, order);
					}
					if (what.endsWith('tell')) tell();
					if (what === 'answer') await server.answer();
					if (what === 'fail') await server.fail();
				}
				tell();
				while (server.owed.orders.length > 0) {
					await server.answer();
					tell();
				}
				expect(server.most()).toBeLessThanOrEqual(1);
				// As they were told the last time.
				const lastly = [...new Set(server.told.toReversed())].toReversed();
				expect(lastly.filter((says) => meant.some((order) => order.says === says))).toEqual(
					meant.map(({ says }) => says)
				);
			})
		);
	});
});
