import { describe, expect, it } from 'vitest';
import { checkStudio } from './check';
import { keepFile, listKeptFiles, readKeptFile, removeKeptFile } from './kept-files';
import { createMap } from './maps';
import { freshStudio } from './studio.fixture';
import { run } from './store/sql';

const here = freshStudio();
const begin = async () =>
	(await createMap(here.studio, { from: 'surface', name: 'Cues', surface: 'osier-tarn' })).id;
const bytes = (...values: number[]) => Uint8Array.from(values);
const attach = (id: string, name: string, ...values: number[]) =>
	keepFile(here.studio, { map: id }, { name, bytes: bytes(...values), note: '' });

describe('a file that is kept with a map', () => {
	it('comes back byte for byte, and another one of its name takes the place of none', async () => {
		const id = await begin();
		const first = await attach(id, 'dome.remote', 0, 255, 1);
		const second = await attach(id, 'dome.remote', 0, 255, 2);
		expect([first.as, second.as]).toEqual(['first', 'newer']);
		expect((await listKeptFiles(here.studio, { map: id })).map(({ id: each }) => each)).toEqual([
			second.file.id,
			first.file.id
		]);
		expect((await readKeptFile(here.studio, first.file.id)).bytes).toEqual(bytes(0, 255, 1));
		expect((await readKeptFile(here.studio, second.file.id)).bytes).toEqual(bytes(0, 255, 2));
	});

	it('is kept once where nothing changed, and again where it went back to what it was', async () => {
		const id = await begin();
		const first = await attach(id, 'a', 1);
		expect(await attach(id, 'a', 1)).toEqual({ file: first.file, as: 'same' });
		await attach(id, 'a', 2);
		expect((await attach(id, 'a', 1)).as).toBe('newer');
		// The same content under another name is another file; that of another map, too.
		expect((await attach(id, 'b', 1)).as).toBe('first');
		expect((await attach(await begin(), 'a', 1)).as).toBe('first');
		expect(await listKeptFiles(here.studio, { map: id })).toHaveLength(4);
	});

	it('has its own name alone, without folders and signs that nobody sees', async () => {
		const id = await begin();
		expect((await attach(id, '../../etc/dome\n.map', 1)).file.name).toBe('dome .map');
		expect((await attach(id, 'C:\\maps\\dome .map', 2)).file.name).toBe('dome .map');
		expect((await listKeptFiles(here.studio, { map: id })).map(({ name }) => name)).toEqual([
			'dome .map',
			'dome .map'
		]);
	});

	it('goes and comes back', async () => {
		const id = await begin();
		const { file } = await attach(id, 'a', 1);
		await removeKeptFile(here.studio, file.id);
		expect(await listKeptFiles(here.studio, { map: id })).toEqual([]);
		// One that was taken away is no older version of the next.
		const next = await attach(id, 'a', 2);
		expect(next.as).toBe('first');
		await removeKeptFile(here.studio, file.id, true);
		expect(await listKeptFiles(here.studio, { map: id })).toEqual([next.file, file]);
	});

	it('is refused without a map, without a name, and under one that nobody can read', async () => {
		const id = await begin();
		await expect(attach('nobody', 'a', 1)).rejects.toMatchObject({ code: 'map.not-found' });
		await expect(attach(id, ' ', 1)).rejects.toMatchObject({ code: 'kept-file.name' });
		await expect(attach(id, 'x'.repeat(201), 1)).rejects.toMatchObject({ code: 'kept-file.name' });
		await expect(attach(id, '../..', 1)).resolves.toMatchObject({ file: { name: '..' } });
		await expect(
			keepFile(here.studio, { map: id }, { name: 'a', bytes: bytes(1), note: 'x'.repeat(201) })
		).rejects.toMatchObject({ code: 'kept-file.note' });
		await expect(readKeptFile(here.studio, 'nobody')).rejects.toMatchObject({ code: 'kept-file.not-found' });
	});

	it('that is damaged is never given out as what was kept, and the check names it', async () => {
		const id = await begin();
		const { file } = await attach(id, 'dome.remote', 1, 2, 3);
		expect(await checkStudio(here.studio)).toMatchObject({ files: 1, damage: [] });
		await here.studio.write((transaction) =>
			run(here.studio, 'UPDATE kept_files SET bytes = ? WHERE id = ?', [bytes(1, 2, 4), file.id], transaction)
		);
		await expect(readKeptFile(here.studio, file.id)).rejects.toMatchObject({ code: 'kept-file.damaged' });
		const { damage } = await checkStudio(here.studio);
		expect(damage.map(({ says }) => says)).toEqual([expect.stringContaining('“dome.remote”')]);
	});
});
