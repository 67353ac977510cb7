import { XMLParser, type X2jOptions } from 'fast-xml-parser';

/** An element: its attributes by `@name`, what is in it by its elements' names. */
export type XmlNode = Record<string, unknown>;

/** A reader of XML that leaves every value the text that it is. */
export const xmlParser = (options: X2jOptions = {}): XMLParser =>
	new XMLParser({
		ignoreAttributes: false,
		attributeNamePrefix: '@',
		parseAttributeValue: false,
		parseTagValue: false,
		processEntities: true,
		...options
	});

/** What stands under a name, once or several times, as a list of elements. */
export const nodes = (of: unknown): XmlNode[] =>
	(Array.isArray(of) ? of : of === undefined ? [] : [of]).filter(
		(node): node is XmlNode => typeof node === 'object' && node !== null
	);
