import './fonts.css';
import { StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter } from 'react-router';
import { keepOnDevice } from '../platform/offline.ts';
import { beginEarly, Pages } from './router.tsx';
import { askSession } from './session-data.ts';
import { store } from './store.ts';
import { GlobalStyle } from './theme.ts';
import { UntilTrouble } from './trouble.tsx';

keepOnDevice();
void store.dispatch(askSession());
beginEarly(window.location.pathname);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <GlobalStyle />
      <BrowserRouter>
        <UntilTrouble>
          <Suspense fallback={<p>Opening Rouse…</p>}>
            <Pages />
          </Suspense>
        </UntilTrouble>
      </BrowserRouter>
    </Provider>
  </StrictMode>,
);
