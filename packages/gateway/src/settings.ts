import { flag, port, readSettingsOf, sharedSettings } from '@pragmatica/runtime';
import { z } from 'zod';

/** The gateway's settings: environment variables, read once. */
export const gatewaySettingsSchema = z.object({
  ...sharedSettings,
  PRAGMATICA_GATEWAY_STATUS_PORT: port
    .default(4781)
    .describe('Port, on 127.0.0.1, of the gateway’s own health and metrics.'),
  PRAGMATICA_GATEWAY_PROCESSES: z.coerce
    .number()
    .int()
    .min(1)
    .max(64)
    .default(2)
    .describe(
      'Processes that serve visitors on the one port; as many as there are processors is a good number.',
    ),
  PRAGMATICA_SERVER_TIMING: flag
    .default(true)
    .describe('Whether pages say in Server-Timing which release they hold.'),
  PRAGMATICA_COMPRESS: flag
    .default(true)
    .describe('Whether pages, styles and scripts are compressed for visitors whose browsers take that.'),
  PRAGMATICA_ORIGIN_CA: z
    .string()
    .optional()
    .describe('File of certificates (PEM) to trust besides the usual ones, for origins with https.'),
  PRAGMATICA_HEALTH_PATH: z
    .string()
    .startsWith('/')
    .optional()
    .describe(
      'Path that is asked of every origin every five seconds; one that answers with an error is left out.',
    ),
});

export type GatewaySettings = z.infer<typeof gatewaySettingsSchema>;

/** @throws SettingsError */
export function readGatewaySettings(environment: Record<string, string | undefined>): GatewaySettings {
  return readSettingsOf(gatewaySettingsSchema, environment);
}
