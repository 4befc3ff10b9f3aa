import type { HandlersOf } from '../http/context.js';
import { examineInstallation, type DoctorTools } from '../site/doctor/examine-installation.js';

/** What is wrong with the installation. */
export function doctorHandlers(tools: DoctorTools): HandlersOf<'examineInstallation'> {
  return {
    examineInstallation(_input, { store }) {
      return examineInstallation(store, tools);
    },
  };
}
