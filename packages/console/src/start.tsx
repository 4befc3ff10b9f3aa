import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './app';

/** Shows the console. */
export function start(): void {
  createRoot(document.getElementById('root')!).render(
    <StrictMode>
      <App />
    </StrictMode>,
  );
}
