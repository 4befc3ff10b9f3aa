export { checkDelivery, type DeliveryState, type PartDelivery } from './delivered.js';
