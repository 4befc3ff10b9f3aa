export { previewPage, type PageToPreview, type PreviewGround, type PreviewedPage } from './preview-page.js';
