/** What `npm start` prints when everything runs: where to go, how to sign in, what to try. */
export function welcome({ address, gatewayPort, firstSignIn, hasDemo, settings, data }) {
  const signIn = firstSignIn
    ? `${firstSignIn.login} with the one-time password  ${firstSignIn.password}\n              (you choose your own when you sign in)`
    : 'admin, with the password that you chose';
  const server = settings.PRAGMATICA_PORT === 4700 ? '' : ` --server ${address}`;
  const lines = [
    '',
    'Pragmatica is running.',
    '',
    `  Console     ${address}`,
    `  Sign in     ${signIn}`,
    ...(hasDemo
      ? [
          `  Demo site   http://skerrywick.localhost:${gatewayPort}   (through the gateway)`,
          `              http://origin.skerrywick.localhost:${settings.PRAGMATICA_DEMO_SITE_PORT}   (as its own server sends it)`,
          `              http://line.skerrywick.localhost:${settings.PRAGMATICA_DEMO_SITE_PORT}   (with nothing but one line in its head)`,
          `              http://by-middleware.skerrywick.localhost:${settings.PRAGMATICA_DEMO_NODE_PORT}   (one of the hosts of “Skerrywick, every way”)`,
        ]
      : [`  Gateway     http://localhost:${gatewayPort}   (serves the hosts of your sites)`]),
    `  Health      http://127.0.0.1:${settings.PRAGMATICA_GATEWAY_STATUS_PORT}/readyz (gateway), ${address}/readyz (service)`,
    `  Logs        ${data}/logs`,
    '',
    'Try next:',
    '',
    `  npx pragmatica sign-in${server}`,
    ...(hasDemo
      ? ['  npx pragmatica plan /booking', '  npx pragmatica diff']
      : ['  npx pragmatica site add www.example.com', '  npx pragmatica snippet add --help']),
    '',
    'Ctrl-C stops everything.',
  ];
  return lines.join('\n');
}
