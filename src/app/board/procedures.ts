import { controllersRead, controllerWritten, endsShown } from '../lessons/controllers.ts';
import { portHeard } from '../lessons/hearPort.ts';
import { receiverHeard } from '../lessons/hearReceiver.ts';
import { stickLearnt } from '../lessons/learnStick.ts';
import { store } from '../store/store.ts';
import { ProcedureRunner } from './ProcedureRunner.ts';
import { boardSession } from './session.ts';

/** The one runner of this page, with what is done with each kind of result. */
export const procedures = new ProcedureRunner({
  store,
  clock: { pause: (ms) => new Promise((resolve) => setTimeout(resolve, ms)) },
  link: () => boardSession.openLink(),
  lessons: {
    'learn-stick': stickLearnt(store),
    'listen-port': portHeard(store),
    'listen-receiver': receiverHeard(store),
    'controllers-read': controllersRead(store),
    'controller-write': controllerWritten(store),
    'teach-ends': endsShown,
  },
});
