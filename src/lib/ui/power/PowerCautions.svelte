<aside class="rounded border border-line bg-sheet p-3 text-sm" aria-label="Cautions">
	<p>
		<b>The maker’s label decides</b>, on the supply and on the device. Wrong polarity or voltage destroys
		gear. Pull the supply’s plug from the wall before anything is changed. Mains, amplifiers and tubes can
		hurt and kill, loud sound can damage hearing: turn amplifiers down first, never open mains equipment, keep
		to the local code, and ask a qualified technician.
	</p>
</aside>
