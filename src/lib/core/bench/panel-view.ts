/** A switch or a dial of a front panel. */
export interface PanelSwitch {
	id: string;
	label: string;
	kind: 'switch' | 'dial';
	/** 0 or 1 for a switch. */
	value: number;
	low: number;
	high: number;
}

export interface PanelView {
	display: string[];
	switches: PanelSwitch[];
	/** The program on the display. */
	program: { area: string; index: number; label: string; name: string | null; parameters: PanelParameter[] };
	slots: number;
	dumpButton: string | null;
	/** Whether it can be switched on in update mode, and whether it is in it. */
	takesSystems: boolean;
	updating: boolean;
	busy: boolean;
	/** Notes that sound, as on the wire. */
	sounding: number[];
}

export interface PanelParameter {
	id: string;
	name: string;
	raw: number;
	low: number;
	high: number;
	shown: string;
}
