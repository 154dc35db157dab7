import { gpx, kml } from '@tmcw/togeojson';
import { DOMParser } from '@xmldom/xmldom';

/**
 * What a file of GPX 1.1 or KML 2.2 holds, as features of GeoJSON (RFC 7946), not checked any further.
 * @returns a sentence where it is damaged, of another kind, or brings definitions of its own
 */
export function featuresOfXml(text: string): { readonly features: unknown } | { readonly why: string } {
  if (/<!DOCTYPE|<!ENTITY/i.test(text.slice(0, 10_000)))
    return { why: 'The file brings definitions of its own, which no GPX or KML needs.' };
  let broken = '';
  const complain = (level: string, message: string) => {
    if (level !== 'warning') broken ||= message.split('\n')[0]!.slice(0, 120);
  };
  try {
    const dom = new DOMParser({ onError: complain }).parseFromString(text, 'text/xml');
    const root = dom.documentElement?.localName;
    if (broken) return { why: `The file is damaged: ${broken}.` };
    if (root !== 'gpx' && root !== 'kml')
      return { why: `The file is XML of another kind: ${root ?? 'empty'}.` };
    // Its parser wants the browser's type of document; both keep to the same standard.
    const document = dom as unknown as Document;
    return { features: root === 'gpx' ? gpx(document) : kml(document) };
  } catch (error) {
    return {
      why: `The file is damaged: ${broken || (error instanceof Error ? error.message.split('\n')[0] : 'it cannot be read')}.`,
    };
  }
}
