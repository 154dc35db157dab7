import { Catalogue } from '#core/settings/catalogue.ts';
import { addControlSettings } from './catalogue/control.ts';
import { EntryBook } from './catalogue/entryBook.ts';
import { addMixRows } from './catalogue/mixRows.ts';
import { addNavigationSettings } from './catalogue/navigation.ts';
import { addOutputsSettings } from './catalogue/outputs.ts';
import { addOverlaySettings } from './catalogue/overlay.ts';
import { addPilotSettings } from './catalogue/pilot.ts';
import { addPortsSettings } from './catalogue/ports.ts';
import { rules } from './catalogue/rules.ts';
import { addSensorsSettings } from './catalogue/sensors.ts';
import { addSignalSettings } from './catalogue/signals.ts';
import { addToldBackSettings } from './catalogue/toldBack.ts';
import { addVideoSettings } from './catalogue/video.ts';

const book = new EntryBook();
addOutputsSettings(book);
addPilotSettings(book);
addControlSettings(book);
addMixRows(book);
addNavigationSettings(book);
addSensorsSettings(book);
addPortsSettings(book);
addOverlaySettings(book);
addToldBackSettings(book);
addSignalSettings(book);
addVideoSettings(book);

/** Everything Pfad 3.1 can be told. */
export const pfadCatalogue = new Catalogue(book.entries, rules);
