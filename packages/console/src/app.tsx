import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { ApiError } from '@pragmatica/contract';
import { Tooltip } from 'radix-ui';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { Shell } from './layout/shell';
import { SiteLayout } from './layout/site-layout';
import { ActivityRoom } from './rooms/activity/activity-room';
import { FieldsRoom } from './rooms/fields/fields-room';
import { ChecklistRoom } from './rooms/checklist/checklist-room';
import { ApplyRecipeRoom } from './rooms/recipes/apply-recipe-room';
import { RecipeRoom } from './rooms/recipes/recipe-room';
import { RecipesRoom } from './rooms/recipes/recipes-room';
import { ReleasesRoom } from './rooms/releases/releases-room';
import { SettingsRoom } from './rooms/settings/settings-room';
import { SitesRoom } from './rooms/sites/sites-room';
import { StripRoom } from './rooms/strip/strip-room';
import { VerificationRoom } from './rooms/verification/verification-room';
import { NotFound } from './ui/states';
import { ToastProvider } from './ui/toast';

const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      // An answer that will not change by asking again is shown at once.
      retry: (failures, error) => !(error instanceof ApiError && error.status < 500) && failures < 2,
      staleTime: 5_000,
    },
  },
});

// The code editor and the HTML parser are loaded with the rooms that need them.
const loadAddSnippet = async () => ({
  Component: (await import('./rooms/snippet/add-snippet-room')).AddSnippetRoom,
});
const loadFindings = async () => ({
  Component: (await import('./rooms/findings/findings-room')).FindingsRoom,
});
const loadUpdates = async () => ({
  Component: (await import('./rooms/recipes/updates-room')).UpdatesRoom,
});
const loadEditSnippet = async () => ({
  Component: (await import('./rooms/snippet/edit-snippet-room')).EditSnippetRoom,
});

const router = createBrowserRouter([
  {
    path: '/',
    element: <Shell />,
    children: [
      { index: true, element: <SitesRoom /> },
      { path: 'fields', element: <FieldsRoom /> },
      { path: 'recipes', element: <RecipesRoom /> },
      { path: 'recipes/updates', lazy: loadUpdates },
      { path: 'recipes/:recipe', element: <RecipeRoom /> },
      { path: 'recipes/:recipe/apply', element: <ApplyRecipeRoom /> },
      {
        path: 'sites/:site',
        element: <SiteLayout />,
        children: [
          { index: true, element: <Navigate to="strip" replace /> },
          { path: 'strip', element: <StripRoom /> },
          { path: 'snippets/new', lazy: loadAddSnippet },
          { path: 'snippets/:snippet', lazy: loadEditSnippet },
          { path: 'findings', lazy: loadFindings },
          { path: 'checklist', element: <ChecklistRoom /> },
          { path: 'releases', element: <ReleasesRoom /> },
          { path: 'check', element: <VerificationRoom /> },
          { path: 'settings', element: <SettingsRoom /> },
          { path: 'activity', element: <ActivityRoom /> },
        ],
      },
      { path: '*', element: <NotFound /> },
    ],
  },
]);

export function App() {
  return (
    <QueryClientProvider client={queryClient}>
      <Tooltip.Provider delayDuration={300}>
        <ToastProvider>
          <RouterProvider router={router} />
        </ToastProvider>
      </Tooltip.Provider>
    </QueryClientProvider>
  );
}
