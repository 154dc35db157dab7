import { describe, expect, it } from 'vitest';
import { featuresOfXml } from './geoXml.ts';

const gpx = (inner: string) =>
  `<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1">${inner}</gpx>`;

describe('a file of places', () => {
  it('is features, whichever of the two it is', () => {
    const track = gpx(
      '<trk><trkseg><trkpt lat="61.9" lon="-12.4"><ele>5</ele></trkpt><trkpt lat="62" lon="-12.4"/></trkseg></trk>',
    );
    expect(featuresOfXml(track)).toMatchObject({
      features: { features: [{ geometry: { type: 'LineString' } }] },
    });
    const kml =
      '<kml xmlns="http://www.opengis.net/kml/2.2"><Placemark><Point><coordinates>-12.4,61.9,3</coordinates></Point></Placemark></kml>';
    expect(featuresOfXml(kml)).toMatchObject({
      features: { features: [{ geometry: { type: 'Point', coordinates: [-12.4, 61.9, 3] } }] },
    });
  });

  it.each([
    ['', /damaged|another kind/],
    ['<gpx><trk>', /damaged/],
    ['<html xmlns="http://www.w3.org/1999/xhtml"><body/></html>', /another kind: html/],
    ['<!DOCTYPE gpx [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><gpx>&b;</gpx>', /definitions of its own/],
    ['<!ENTITY x SYSTEM "file:///etc/passwd"><gpx/>', /definitions of its own/],
  ])('is refused with a sentence where it is none: %s', (text, why) => {
    const read = featuresOfXml(text);
    expect('why' in read && read.why).toMatch(why);
    // One sentence, whatever the parser had to say.
    expect('why' in read && read.why).not.toContain('\n');
  });
});
