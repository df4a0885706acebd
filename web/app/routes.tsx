import { createBrowserRouter, Navigate, type RouteObject } from 'react-router';
import { Floor } from '../floor/Floor';
import { Frame } from './Frame';
import { Lost } from './Lost';
import { SHOP_PATH } from './place';

/** Screens are loaded when opened; only the frame and the floor come first. */
const screens: RouteObject[] = [
  {
    path: '/wall',
    ErrorBoundary: Lost,
    HydrateFallback: () => null,
    lazy: async () => ({ Component: (await import('../floor/Wall')).Wall }),
  },
  {
    path: '/u/:link',
    ErrorBoundary: Lost,
    HydrateFallback: () => null,
    lazy: async () => ({ Component: (await import('../owner/LinkedPage')).LinkedPage }),
  },
  {
    path: '/',
    Component: Frame,
    ErrorBoundary: Lost,
    HydrateFallback: () => null,
    children: [
      { index: true, element: <Navigate to="/floor" replace /> },
      { path: 'floor', Component: Floor },
      { path: 'orders', lazy: async () => ({ Component: (await import('../orders/Orders')).Orders }) },
      { path: 'orders/when', lazy: async () => ({ Component: (await import('../orders/When')).When }) },
      { path: 'orders/new', lazy: async () => ({ Component: (await import('../orders/NewOrder')).NewOrder }) },
      {
        path: 'orders/:id',
        lazy: async () => ({ Component: (await import('../order/OrderPage')).OrderPage }),
        children: [
          { index: true, element: <Navigate to="arrive" replace /> },
          { path: 'arrive', lazy: async () => ({ Component: (await import('../order/arrive/Arrive')).Arrive }) },
          { path: 'fit', lazy: async () => ({ Component: (await import('../order/fit/Fit')).Fit }) },
          { path: 'power', lazy: async () => ({ Component: (await import('../order/power/Power')).Power }) },
          { path: 'wire', lazy: async () => ({ Component: (await import('../order/wire/Wire')).Wire }) },
          { path: 'lamps', lazy: async () => ({ Component: (await import('../order/lamps/Lamps')).Lamps }) },
          { path: 'plan', lazy: async () => ({ Component: (await import('../order/plan/Plan')).Plan }) },
          { path: 'bench', lazy: async () => ({ Component: (await import('../order/bench/Bench')).Bench }) },
          { path: 'handover', lazy: async () => ({ Component: (await import('../order/handover/Handover')).Handover }) },
          { path: 'paper/:which', lazy: async () => ({ Component: (await import('../order/paper/Paper')).Paper }) },
          { path: 'price', lazy: async () => ({ Component: (await import('../order/money/Money')).Money }) },
          { path: 'log', lazy: async () => ({ Component: (await import('../order/Log')).Log }) },
        ],
      },
      { path: 'parts', lazy: async () => ({ Component: (await import('../parts/Parts')).Parts }) },
      { path: 'sheets', lazy: async () => ({ Component: (await import('../sheets/Sheets')).Sheets }) },
      { path: 'sheets/model/:id/edit', lazy: async () => ({ Component: (await import('../sheets/ModelEditor')).ModelEditor }) },
      { path: 'sheets/kit/:id/edit', lazy: async () => ({ Component: (await import('../sheets/kit/KitEditor')).KitEditor }) },
      { path: 'sheets/:kind/:id', lazy: async () => ({ Component: (await import('../sheets/Sheets')).Sheets }) },
      { path: 'tools', lazy: async () => ({ Component: (await import('../tools/Tools')).Tools }) },
      { path: 'tools/:name', lazy: async () => ({ Component: (await import('../tools/Tools')).Tools }) },
      { path: 'shop', element: <Navigate to="/shop/house" replace /> },
      { path: 'shop/:subject', lazy: async () => ({ Component: (await import('../shop/Shop')).Shop }) },
      { path: '*', Component: Lost },
    ],
  },
];

export const router = createBrowserRouter(screens, { basename: SHOP_PATH || '/' });
