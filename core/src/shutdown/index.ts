export { type Booking, bookingOf } from './bookings.ts';
export { forecastResidual, type ResidualForecast } from './residual.ts';
