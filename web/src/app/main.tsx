import './fonts.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { RouterProvider } from 'react-router/dom';
import { keepOnDevice } from '../platform/offline.ts';
import { router } from './router.tsx';
import { store } from './store.ts';
import { GlobalStyle } from './theme.ts';

keepOnDevice();

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <GlobalStyle />
      <RouterProvider router={router} />
    </Provider>
  </StrictMode>,
);
