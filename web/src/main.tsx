import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { lazy, StrictMode, Suspense } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter, Route, Routes } from 'react-router'
import './i18n'
import './styles.css'
import { DoorPage } from './admission/DoorPage'
import { Loading, NothingHere } from './ui/States'

const SignIn = lazy(() => import('./account/SignIn'))
const Today = lazy(() => import('./planning/Today'))

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true } } })

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <Suspense fallback={<Loading />}>
          <Routes>
            <Route path="/" element={<Today />} />
            <Route path="/sign-in" element={<SignIn />} />
            <Route path="/s/:link" element={<DoorPage />} />
            <Route path="*" element={<NothingHere />} />
          </Routes>
        </Suspense>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
)
