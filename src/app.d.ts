import type { Studio } from '$lib/server/db/connection';
import type { DeviceToday } from '$lib/server/today';

declare global {
	namespace App {
		interface Error {
			message: string;
			remedy?: string;
			code?: string;
		}
		interface Locals {
			studio: Studio;
			/** What the cabinet and the page both show, worked out once a request. */
			today(): Promise<DeviceToday[]>;
		}
	}
}

export {};
