/** A wiring laid out as a map: places, devices in them, cables between. Lengths in px. */
export interface MapSocket {
	id: string;
	name: string;
	x: number;
	y: number;
	side: 'left' | 'right';
}
export interface MapDevice {
	id: string;
	name: string;
	x: number;
	y: number;
	width: number;
	height: number;
	sockets: MapSocket[];
}
export interface MapPlace {
	name: string;
	x: number;
	y: number;
	width: number;
	height: number;
}
export interface MapCable {
	from: string;
	to: string;
	/** Corners of its way. */
	points: [number, number][];
}
export interface RigMap {
	width: number;
	height: number;
	places: MapPlace[];
	devices: MapDevice[];
	cables: MapCable[];
}
