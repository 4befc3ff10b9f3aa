import { DOCTOR_TEXTS as T } from '../texts/doctor.js';
import { say } from '../texts/say.js';
import type { DoorFacts, Examination, Found } from './types.js';

export const ports: Examination = {
  id: 'ports',
  examine: ({ doors }) => doors.map((door) => (door.door === 'gateway' ? ofGateway(door) : ofPeople(door))),
};

function ofPeople({ door, address, port, answered, reason }: DoorFacts): Found {
  const about = address;
  const advice = say(door === 'console' ? T.portConsoleAdvice : T.portPreviewAdvice, { port });
  switch (answered) {
    case 'by-us':
      return { about, health: 'well', said: T.portWell, advice: '' };
    case 'by-others':
      return { about, health: 'problem', said: T.portOthers, advice };
    case 'by-nobody':
      // Some networks let nobody in who comes from inside.
      return { about, health: 'warning', said: say(T.portNobody, { reason: reason ?? '' }), advice };
  }
}

function ofGateway({ address, port, answered, reason }: DoorFacts): Found {
  const about = address;
  switch (answered) {
    case 'by-us':
      return { about, health: 'well', said: T.portGatewayWell, advice: '' };
    case 'by-others':
      return {
        about,
        health: 'problem',
        said: say(T.portTaken, { port }),
        advice: T.portTakenAdvice,
      };
    case 'by-nobody':
      return {
        about,
        health: 'warning',
        said: say(T.portGatewayNobody, { reason: reason ?? '' }),
        advice: T.portGatewayAdvice,
      };
  }
}
