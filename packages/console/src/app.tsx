import { MutationCache, QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { ApiError } from '@pragmatica/contract';
import { Tooltip } from 'radix-ui';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { sessionQuery } from './api/queries';
import { isSessionOver } from './api/session-over';
import { Shell } from './layout/shell';
import { SiteLayout } from './layout/site-layout';
import { FieldsView } from './views/fields/fields-view';
import { ChecklistView } from './views/checklist/checklist-view';
import { ApplyRecipeView } from './views/recipes/apply-recipe-view';
import { RecipeView } from './views/recipes/recipe-view';
import { RecipesView } from './views/recipes/recipes-view';
import { ReleasesView } from './views/releases/releases-view';
import { SettingsLayout } from './views/settings/settings-layout';
import { SiteView } from './views/settings/site-view';
import { SitesView } from './views/sites/sites-view';
import { StripView } from './views/strip/strip-view';
import { CheckLayout } from './views/visits/check-layout';
import { VerificationView } from './views/verification/verification-view';
import { NotFound } from './ui/states';
import { ToastProvider } from './ui/toast';

/** A session that is over is noticed by whatever asks first. */
function noticeEnd(error: Error): void {
  if (isSessionOver(error) && queryClient.getQueryData(sessionQuery.queryKey))
    void queryClient.invalidateQueries({ queryKey: sessionQuery.queryKey });
}

const queryClient = new QueryClient({
  queryCache: new QueryCache({
    onError: (error, { queryKey }) => queryKey[0] !== sessionQuery.queryKey[0] && noticeEnd(error),
  }),
  mutationCache: new MutationCache({ onError: noticeEnd }),
  defaultOptions: {
    queries: {
      // An answer that will not change by asking again is shown at once.
      retry: (failures, error) => !(error instanceof ApiError && error.status < 500) && failures < 2,
      staleTime: 5_000,
    },
  },
});

// The code editor and the HTML parser are loaded with the views that need them.
const loadAddSnippet = async () => ({
  Component: (await import('./views/snippet/add-snippet-view')).AddSnippetView,
});
const loadFindings = async () => ({
  Component: (await import('./views/findings/findings-view')).FindingsView,
});
const loadUpdates = async () => ({
  Component: (await import('./views/recipes/updates-view')).UpdatesView,
});
const loadEditSnippet = async () => ({
  Component: (await import('./views/snippet/edit-snippet-view')).EditSnippetView,
});

const loadSnippets = async () => ({
  Component: (await import('./views/snippets/snippets-view')).SnippetsView,
});
const loadDelivery = async () => ({
  Component: (await import('./views/delivery/delivery-view')).DeliveryView,
});
const loadPolicy = async () => ({
  Component: (await import('./views/policy/policy-view')).PolicyView,
});
const loadStart = async () => ({
  Component: (await import('./views/start/start-view')).StartView,
});
const loadSurvey = async () => ({
  Component: (await import('./views/survey/survey-layout')).SurveyLayout,
});
const loadSightings = async () => ({
  Component: (await import('./views/survey/sightings-view')).SightingsView,
});
const loadCoverage = async () => ({
  Component: (await import('./views/survey/coverage-view')).CoverageView,
});
const loadPages = async () => ({ Component: (await import('./views/survey/pages-view')).PagesView });
const loadPage = async () => ({ Component: (await import('./views/survey/page-view')).PageView });
const loadSides = async () => ({ Component: (await import('./views/survey/sides-view')).SidesView });
const loadSurveys = async () => ({
  Component: (await import('./views/survey/history-view')).HistoryView,
});

const loadBrowser = async () => ({
  Component: (await import('./views/visits/browser-view')).BrowserView,
});
const loadVisit = async () => ({ Component: (await import('./views/visits/visit-view')).VisitView });
const loadWhy = async () => ({ Component: (await import('./views/visits/why-view')).WhyView });
const loadWeight = async () => ({ Component: (await import('./views/weight/weight-view')).WeightView });
const loadWatch = async () => ({ Component: (await import('./views/watch/watch-view')).WatchView });

const loadHelp = async () => ({ Component: (await import('./views/help/help-layout')).HelpLayout });
const loadHelpIndex = async () => ({ Component: (await import('./views/help/help-index')).HelpIndex });
const loadHelpPage = async () => ({ Component: (await import('./views/help/help-page')).HelpPage });
const loadHosts = async () => ({ Component: (await import('./views/settings/hosts-view')).HostsView });
const loadSiteFields = async () => ({
  Component: (await import('./views/settings/fields-view')).FieldsView,
});
const loadPageGroups = async () => ({
  Component: (await import('./views/settings/page-groups-view')).PageGroupsView,
});
const loadConsent = async () => ({
  Component: (await import('./views/settings/consent-view')).ConsentView,
});
const loadFiles = async () => ({ Component: (await import('./views/settings/files-view')).FilesView });

const loadAccount = async () => ({
  Component: (await import('./views/account/account-view')).AccountView,
});

const loadComments = async () => ({
  Component: (await import('./views/comments/comments-view')).CommentsView,
});
const loadActivity = async () => ({
  Component: (await import('./views/activity/activity-view')).ActivityView,
});
const loadTrail = async () => ({
  Component: (await import('./views/activity/trail-view')).TrailView,
});
const loadApproval = async () => ({
  Component: (await import('./views/approvals/approval-view')).ApprovalView,
});
const loadApprovalLink = async () => ({
  Component: (await import('./views/approvals/approval-link-view')).ApprovalLinkView,
});
const loadMembers = async () => ({
  Component: (await import('./views/members/members-view')).MembersView,
});
const loadBackups = async () => ({
  Component: (await import('./views/backups/backups-view')).BackupsView,
});
const loadDoctor = async () => ({
  Component: (await import('./views/doctor/doctor-view')).DoctorView,
});
const loadPeople = async () => ({ Component: (await import('./views/settings/people-view')).PeopleView });
const loadInvitation = async () => ({
  Component: (await import('./views/invitation/invitation-view')).InvitationView,
});

const loadAnswer = async () => ({
  Component: (await import('./views/sign-in/answer-view')).AnswerView,
});
const loadGoConfirm = async () => ({
  Component: (await import('./views/sign-in/go-confirm-view')).GoConfirmView,
});
const loadHandover = async () => ({
  Component: (await import('./views/handover/handover-view')).HandoverView,
});

const router = createBrowserRouter([
  // Whoever has a link has no account: nothing of it stands behind the sign-in.
  { path: '/handover', lazy: loadHandover, hydrateFallbackElement: <></> },
  { path: '/approval', lazy: loadApprovalLink, hydrateFallbackElement: <></> },
  { path: '/sign-in/answer', lazy: loadAnswer, hydrateFallbackElement: <></> },
  { path: '/sign-in/confirm', lazy: loadGoConfirm, hydrateFallbackElement: <></> },
  { path: '/invitation', lazy: loadInvitation, hydrateFallbackElement: <></> },
  {
    path: '/',
    element: <Shell />,
    children: [
      { index: true, element: <SitesView /> },
      // The sign-in is at every address; whoever looks for it at one of its own is on the way in.
      { path: 'sign-in', element: <Navigate to="/" replace /> },
      { path: 'account', lazy: loadAccount },
      { path: 'members', lazy: loadMembers },
      { path: 'activity', lazy: loadTrail },
      { path: 'backups', lazy: loadBackups },
      { path: 'health', lazy: loadDoctor },
      { path: 'fields', element: <FieldsView /> },
      {
        path: 'help',
        lazy: loadHelp,
        children: [
          { index: true, lazy: loadHelpIndex },
          { path: ':page', lazy: loadHelpPage },
        ],
      },
      { path: 'recipes', element: <RecipesView /> },
      { path: 'recipes/updates', lazy: loadUpdates },
      { path: 'recipes/:recipe', element: <RecipeView /> },
      { path: 'recipes/:recipe/apply', element: <ApplyRecipeView /> },
      {
        path: 'sites/:site',
        element: <SiteLayout />,
        children: [
          { index: true, element: <Navigate to="strip" replace /> },
          { path: 'strip', element: <StripView /> },
          { path: 'start', lazy: loadStart },
          { path: 'delivery', lazy: loadDelivery },
          { path: 'delivery/policy', lazy: loadPolicy },
          { path: 'snippets', lazy: loadSnippets },
          { path: 'snippets/new', lazy: loadAddSnippet },
          { path: 'snippets/:snippet', lazy: loadEditSnippet },
          { path: 'findings', lazy: loadFindings },
          { path: 'checklist', element: <ChecklistView /> },
          { path: 'releases', element: <ReleasesView /> },
          { path: 'approvals/:approval', lazy: loadApproval },
          {
            path: 'survey',
            lazy: loadSurvey,
            children: [
              { index: true, lazy: loadSightings },
              { path: 'coverage', lazy: loadCoverage },
              { path: 'pages', lazy: loadPages },
              { path: 'page', lazy: loadPage },
              { path: 'sides', lazy: loadSides },
              { path: 'history', lazy: loadSurveys },
            ],
          },
          {
            path: 'check',
            element: <CheckLayout />,
            children: [
              { index: true, element: <VerificationView /> },
              { path: 'browser', lazy: loadBrowser },
              { path: 'browser/:round', lazy: loadBrowser },
              { path: 'browser/:round/:visit', lazy: loadVisit },
              { path: 'why', lazy: loadWhy },
              { path: 'weight', lazy: loadWeight },
              { path: 'watch', lazy: loadWatch },
            ],
          },
          {
            path: 'settings',
            element: <SettingsLayout />,
            children: [
              { index: true, element: <SiteView /> },
              { path: 'hosts', lazy: loadHosts },
              { path: 'fields', lazy: loadSiteFields },
              { path: 'pages', lazy: loadPageGroups },
              { path: 'consent', lazy: loadConsent },
              { path: 'people', lazy: loadPeople },
              { path: 'files', lazy: loadFiles },
            ],
          },
          { path: 'comments', lazy: loadComments },
          { path: 'activity', lazy: loadActivity },
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
