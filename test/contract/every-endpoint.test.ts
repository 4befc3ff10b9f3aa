import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { endpoints, type EndpointName } from '@pragmatica/contract';
import { expect } from 'chai';

/** Why an endpoint has no command, or none of its own. */
const WITHOUT_COMMAND: Partial<Record<EndpointName, string>> = {
  signOut: 'a token stays until it is removed; taking it out of the file is enough',
  changePassword:
    'sign-in asks for a new password where one is needed; changing it at will is for the console',
  pagePicture: 'a picture is there to be clicked on; "place" tries an element that somebody has named',
  nameElement: 'an element is clicked on in the console; "place" tries one that somebody has named',
  listCommented: '"comment list" names what each comment is on',
  listSkeletons: 'checks use it; there is nothing in it for people',
  showSurvey: '"survey list" and "survey watch" show surveys as they are',
  fixFinding: '"fix ID" uses fixFindings with one id',
  openHandover: 'a link is for somebody with a browser and no account',
  tickHandover: 'a link is for somebody with a browser and no account',
  showSecondFactor: 'an authenticator is set up in the console, where its QR code can be scanned',
  proposeSecondFactor: 'an authenticator is set up in the console, where its QR code can be scanned',
  enableSecondFactor: 'an authenticator is set up in the console, where its QR code can be scanned',
  removeSecondFactor: 'an authenticator is set up in the console, where its QR code can be scanned',
  renewRecoveryCodes: 'recovery codes are shown in the console, to be printed or written down',
  beginPasskeySignIn: 'passkeys are a browser’s',
  signInWithPasskey: 'passkeys are a browser’s',
  listPasskeys: 'passkeys are a browser’s',
  beginPasskey: 'passkeys are a browser’s',
  addPasskey: 'passkeys are a browser’s',
  removePasskey: 'passkeys are a browser’s',
  showSignInWays: 'an identity provider is visited in a browser',
  beginIdentitySignIn: 'an identity provider is visited in a browser',
  signInWithIdentity: 'an identity provider is visited in a browser',
  listIdentities: 'an identity provider is visited in a browser',
  addIdentity: 'an identity provider is visited in a browser',
  removeIdentity: 'an identity provider is visited in a browser',
  openApproval: 'a link is for somebody with a browser and no account',
  decideByLink: 'a link is for somebody with a browser and no account',
  openInvitation: 'an invitation is opened in a browser, before there is anything to sign in with',
  acceptInvitation: 'an invitation is opened in a browser, before there is anything to sign in with',
  joinInvitation: 'an invitation is opened in a browser',
};

/** Why an endpoint has no view. */
const WITHOUT_VIEW: Partial<Record<EndpointName, string>> = {
  previewPages: 'the console matches pages itself, with core, while they are typed',
  showCalendar: 'the console draws the week itself, with core, while it is edited',
  readCode: 'the console reads code itself, with core, while it is typed',
  showRelease: 'the console shows a release by what differs (showDiff)',
  exportRecipe: 'the recipe’s page saves what it has as a file',
  showRecipeSchema: 'for editors and programs',
  showSiteSchema: 'for editors and programs',
  listBoxes: 'blocks come with their boxes (showBlocks)',
  givePages: 'a folder of files lies where the command line is',
  showVisitPage: 'the text of a page is for editors, and “visit” writes it into a file',
  takeBackup: 'the console downloads those that the installation keeps',
  bringSiteBack: 'the console brings sites back from those that the installation keeps',
};

function sourceOf(folder: string): string {
  const files = readdirSync(folder, { recursive: true, encoding: 'utf8' });
  return files
    .filter((name) => /\.tsx?$/.test(name))
    .map((name) => readFileSync(join(folder, name), 'utf8'))
    .join('\n');
}

/** Functions of the contract that make calls for its clients, and the endpoints that they call. */
const HELPERS = ['all-pages', 'confirming'].flatMap((file) =>
  [
    ...readFileSync(`packages/contract/src/${file}.ts`, 'utf8').matchAll(
      /export (?:async )?function (\w+)\([\s\S]*?\.call\('(\w+)'/g,
    ),
  ].map(([, helper, endpoint]) => ({ helper: helper!, endpoint: endpoint! })),
);

const CLIENTS = [
  ['command', 'packages/cli/src', WITHOUT_COMMAND, 'WITHOUT_COMMAND'],
  ['view', 'packages/console/src', WITHOUT_VIEW, 'WITHOUT_VIEW'],
] as const;

describe('every endpoint', () => {
  for (const [what, folder, reasons, table] of CLIENTS) {
    it(`has its ${what}, or a reason for having none`, () => {
      const source = sourceOf(folder);
      for (const name of Object.keys(endpoints) as EndpointName[]) {
        const isCalled =
          source.includes(`'${name}'`) ||
          HELPERS.some(({ helper, endpoint }) => endpoint === name && source.includes(`${helper}(`));
        const reason = reasons[name];
        if (!isCalled && reason === undefined)
          expect.fail(
            `Nothing in ${folder} calls "${name}". Add its ${what} there (docs/architecture.md says how), or a line in ${table} of this test that says why it needs none.`,
          );
        if (isCalled && reason !== undefined)
          expect.fail(`"${name}" is called in ${folder}: take it out of ${table}.`);
      }
    });
  }
});
