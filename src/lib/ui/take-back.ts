import { goto } from '$app/navigation';
import { putBack, type Bank, type BankDocument } from '../core/drawer';
import { Problem, problemOf } from '../core/problem';
import { call } from '../hardware/api';
import { tray } from '../hardware/tray.svelte';
import { attempt } from './attempt';
import { BankEditor } from './bank-editor.svelte';
import { undoTaking } from './contact/take-found';
import { notices } from './notices.svelte';
import { refresh } from './refresh';
import type { Back, WayBack } from './way-back';
import { moveWiring } from './wiring/change-rig';

type Ways = { [K in WayBack['by']]: (way: Extract<WayBack, { by: K }>) => Promise<Back> };

const WAYS: Ways = {
	async calls({ calls, says, then }) {
		const failed: string[] = [];
		for (const { method, path, body } of calls)
			await call(method, path, body).catch((error: unknown) => {
				const { message, remedy } = problemOf(error);
				failed.push(`${message} ${remedy}`);
			});
		if (failed.length === 0) notices.say(says, 'good');
		else notices.say(calls.length > 1 ? `Not all of it could be undone: ${failed[0]}` : failed[0], 'bad');
		if (then && failed.length === 0) await goto(then, { invalidateAll: true });
		else await refresh();
		return failed.length === 0;
	},
	wiring: ({ move, step }) => moveWiring(move, step),
	contact: ({ devices, order }) => undoTaking(devices, order),
	async restore({ transferId }) {
		const put = await attempt(async () => {
			const { safetyVersionId } = await call<{ safetyVersionId: string | null }>(
				'GET',
				`/transfers/${transferId}`
			);
			if (safetyVersionId === null)
				throw new Problem(
					'restore.no-safety-copy',
					'No safety copy was taken: the device cannot be read.',
					'Restore another version from its drawer.'
				);
			await tray.add([`version=${safetyVersionId}`]);
		});
		return put && 'begun';
	},
	async 'bank slot'({ bank: id, index, was, now }) {
		const back = (document: BankDocument) => putBack(document, index, was, now);
		// A bank that is open is changed where it is worked on.
		const { open } = BankEditor;
		if (open?.id === id) {
			const changed = open.change(back);
			await open.store();
			return changed && open.saved === 'saved';
		}
		return attempt(async () => {
			const { revision, document } = await call<Bank>('GET', `/banks/${id}`);
			await call('PUT', `/banks/${id}`, { revision, document: back(document) });
			notices.say(`“${was.name || 'The sound'}” is back in ${document.title}.`, 'good');
			await refresh();
		});
	}
};

/** Takes something back, and says how that went. */
export const takeBack = <K extends WayBack['by']>(way: Extract<WayBack, { by: K }>): Promise<Back> =>
	WAYS[way.by](way);
