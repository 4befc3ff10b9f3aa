import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { hostOfSite, items, site } from './params.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';

const survey = site.extend({ survey: schemas.surveyReference });
const sighting = site.extend({ sighting: z.coerce.number().int() });

/** Walks over real pages, and what stands there. */
export const surveysEndpoints = {
  startSurvey: {
    method: 'POST',
    path: '/sites/{site}/surveys',
    summary: 'Walk over the site’s real pages and read what is in them; a worker does it',
    params: site,
    body: schemas.surveyInput,
    response: schemas.survey,
    status: 201,
  },
  givePages: {
    method: 'PUT',
    path: '/sites/{site}/given-pages/{set}',
    summary: 'Hand over pages to be surveyed, in as many calls as it takes; kept until they have been read',
    params: site.extend({ set: z.uuid() }),
    body: schemas.givenPagesInput,
  },
  listSurveys: {
    method: 'GET',
    path: '/sites/{site}/surveys',
    summary: 'Surveys of the site, the newest first',
    params: site,
    query: schemas.newestQuery,
    response: schemas.surveyList,
  },
  showSurvey: {
    method: 'GET',
    path: '/sites/{site}/surveys/{survey}',
    summary: 'One survey; "latest" is the newest that came to its end',
    params: survey,
    response: schemas.survey,
  },
  watchSurvey: {
    method: 'GET',
    path: '/sites/{site}/surveys/{survey}/progress',
    summary: 'How far a survey is, until it is over',
    params: survey,
    stream: schemas.surveyEvent,
  },
  cancelSurvey: {
    method: 'POST',
    path: '/sites/{site}/surveys/{survey}/cancel',
    summary: 'End a survey; what it has read stays',
    params: survey,
    response: schemas.survey,
  },
  showSides: {
    method: 'GET',
    path: '/sites/{site}/surveys/{survey}/sides',
    summary: 'What becomes of pages between the site’s own server and visitors, as surveys of both saw it',
    params: survey,
    response: schemas.surveySides,
  },
  listSchedules: {
    method: 'GET',
    path: '/sites/{site}/survey-schedules',
    summary: 'When surveys of the site’s hosts begin by themselves',
    params: site,
    response: items(schemas.surveySchedule),
  },
  setSchedule: {
    method: 'PUT',
    path: '/sites/{site}/survey-schedules/{host}',
    summary: 'Let surveys of a host begin by themselves',
    params: hostOfSite,
    body: schemas.surveyScheduleInput,
  },
  endSchedule: {
    method: 'DELETE',
    path: '/sites/{site}/survey-schedules/{host}',
    summary: 'Begin no more surveys of a host by themselves',
    params: hostOfSite,
  },
  showSurveyChanges: {
    method: 'GET',
    path: '/sites/{site}/surveys/{survey}/changes',
    summary: 'What differs from the survey of the same host before',
    params: survey,
    response: schemas.surveyChanges,
  },
  listSurveyPages: {
    method: 'GET',
    path: '/sites/{site}/surveys/{survey}/pages',
    summary: 'Pages that a survey found, by path',
    params: survey,
    query: schemas.surveyPageQuery,
    response: schemas.surveyPageList,
  },
  showSurveyPage: {
    method: 'GET',
    path: '/sites/{site}/surveys/{survey}/page',
    summary: 'All that a survey knows of one page',
    params: survey,
    query: z.strictObject({ path: z.string().startsWith('/', FIELD_TEXTS.pathForm).max(1_000) }),
    response: schemas.pageDetail,
  },
  showFirstLook: {
    method: 'GET',
    path: '/sites/{site}/surveys/{survey}/look',
    summary: 'What a survey saw of a site, in a few sentences',
    params: survey,
    response: schemas.firstLook,
  },
  listSightings: {
    method: 'GET',
    path: '/sites/{site}/surveys/{survey}/sightings',
    summary: 'What stands in the pages, each thing once, with how it stands to the snippets',
    params: survey,
    query: schemas.sightingQuery,
    response: schemas.sightingList,
  },
  showCoverage: {
    method: 'GET',
    path: '/sites/{site}/surveys/{survey}/coverage',
    summary: 'Pages × snippets: expected against present',
    params: survey,
    response: schemas.coverage,
  },
  showSighting: {
    method: 'GET',
    path: '/sites/{site}/sightings/{sighting}',
    summary: 'One sighting with its code, and how it would be adopted',
    params: sighting,
    response: schemas.sightingDetail,
  },
  adoptSighting: {
    method: 'POST',
    path: '/sites/{site}/sightings/{sighting}/adopt',
    summary: 'Make a snippet of it, switched off until the copy in the site is gone',
    params: sighting,
    body: schemas.adoption,
    response: schemas.adopted,
    status: 201,
  },
  ignoreSighting: {
    method: 'PUT',
    path: '/sites/{site}/sightings/{sighting}/ignored',
    summary: 'Leave a sighting alone from now on, with a reason',
    params: sighting,
    body: schemas.ignoring,
  },
  heedSighting: {
    method: 'DELETE',
    path: '/sites/{site}/sightings/{sighting}/ignored',
    summary: 'Tell of a sighting again',
    params: sighting,
  },
} as const satisfies Record<string, Endpoint>;
