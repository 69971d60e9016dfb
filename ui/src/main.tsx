import '@fontsource-variable/archivo';
import '@mantine/core/styles.css';
import './look.css';
import { localStorageColorSchemeManager, MantineProvider } from '@mantine/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { setNonce } from 'get-nonce';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Route, Routes } from 'react-router';
import { BenchScreen } from './bench/BenchScreen';
import { DiaryScreen } from './diary/DiaryScreen';
import { HomeScreen } from './home/HomeScreen';
import { Gate } from './home/Pairing';
import { BuildScreen } from './screen/BuildScreen';
import { ShelfScreen } from './shelf/ShelfScreen';
import { theme } from './theme';

const nonce = document.querySelector<HTMLMetaElement>('meta[name=csp-nonce]')?.content ?? '';
// What locks the page behind a dialog writes a style of its own.
setNonce(nonce);
const queries = new QueryClient({
  defaultOptions: { queries: { refetchOnWindowFocus: false, retry: 1, staleTime: 5_000 } },
});
const schemes = localStorageColorSchemeManager({ key: 'cinder-light' });

const root = document.getElementById('root');
if (root) {
  createRoot(root).render(
    <MantineProvider
      theme={theme}
      getStyleNonce={() => nonce}
      defaultColorScheme="light"
      colorSchemeManager={schemes}
      deduplicateCssVariables
    >
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Gate>
            <Routes>
              <Route path="/" element={<HomeScreen />} />
              <Route path="/builds/:id" element={<BuildScreen />} />
              <Route path="/builds/:id/:stage/:room" element={<BuildScreen />} />
              <Route path="/builds/:id/bench" element={<BenchScreen />} />
              <Route path="/builds/:id/diary" element={<DiaryScreen />} />
              <Route path="/shelf" element={<ShelfScreen />} />
              <Route path="/shelf/:room" element={<ShelfScreen />} />
              <Route path="*" element={<HomeScreen />} />
            </Routes>
          </Gate>
        </BrowserRouter>
      </QueryClientProvider>
    </MantineProvider>,
  );
}
