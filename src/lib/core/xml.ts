import { XMLParser, type X2jOptions } from 'fast-xml-parser';
import { Problem } from './problem';

/** An element: its attributes by `@name`, what is in it by its elements' names. */
export type XmlNode = Record<string, unknown>;

/** The deepest that elements may stand in one another: name documents have a tenth of it. */
const DEEPEST = 200;

/** A reader of XML that leaves every value the text that it is. */
export function xmlParser(options: X2jOptions = {}): { parse(text: string): XmlNode } {
	const parser = new XMLParser({
		ignoreAttributes: false,
		attributeNamePrefix: '@',
		parseAttributeValue: false,
		parseTagValue: false,
		processEntities: true,
		maxNestedTags: DEEPEST,
		...options
	});
	return {
		/** @throws Problem `xml.unreadable` with what is wrong */
		parse(text) {
			try {
				return parser.parse(text) as XmlNode;
			} catch (error) {
				throw new Problem(
					'xml.unreadable',
					`The XML cannot be read: ${error instanceof Error ? error.message : String(error)}`,
					'Export it again from where it came from.'
				);
			}
		}
	};
}

/** What stands under a name, once or several times, as a list of elements. */
export const nodes = (of: unknown): XmlNode[] =>
	(Array.isArray(of) ? of : of === undefined ? [] : [of]).filter(
		(node): node is XmlNode => typeof node === 'object' && node !== null
	);
