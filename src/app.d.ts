import type { Studio } from '$lib/server/db/connection';

declare global {
	namespace App {
		interface Error {
			message: string;
			remedy?: string;
			code?: string;
		}
		interface Locals {
			studio: Studio;
		}
	}
}

export {};
