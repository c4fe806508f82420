import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { lazy, StrictMode, Suspense } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter, Route, Routes } from 'react-router'
import { startLanguage } from './i18n'
import './styles.css'
import { DoorPage } from './admission/DoorPage'
import { Refused } from './api/client'
import { show } from './settings/store'
import { followAccount } from './settings/withAccount'
import { Boundary } from './ui/Boundary'
import { Loading, NothingHere } from './ui/States'

const SetUpPage = lazy(() => import('./accounts/SetUpPage'))
const pagesOfLinks = () => import('./accounts/LinkPages')
const ForgotPage = lazy(() => pagesOfLinks().then((pages) => ({ default: pages.ForgotPage })))
const ResetPage = lazy(() => pagesOfLinks().then((pages) => ({ default: pages.ResetPage })))
const ConfirmPage = lazy(() => pagesOfLinks().then((pages) => ({ default: pages.ConfirmPage })))
const JoinPage = lazy(() => pagesOfLinks().then((pages) => ({ default: pages.JoinPage })))
const AccountPage = lazy(() => import('./accounts/AccountPage'))
const HousePage = lazy(() => import('./house/HousePage'))
const HostsPage = lazy(() => import('./house/HostsPage'))
const SignIn = lazy(() => import('./accounts/SignIn'))
const Today = lazy(() => import('./planning/Today'))
const PlanPage = lazy(() => import('./planning/PlanPage'))
const ContactsPage = lazy(() => import('./planning/ContactsPage'))
const OutboxPage = lazy(() => import('./planning/OutboxPage'))
const LibraryPage = lazy(() => import('./recording/LibraryPage'))
const RecordingPage = lazy(() => import('./recording/RecordingPage'))
const SharedPage = lazy(() => import('./recording/SharedPage'))
const AnswerPage = lazy(() => import('./planning/AnswerPage'))

/** What the server has refused it would refuse again; only what did not reach it is tried anew. */
const isRefusal = (error: Error) => error instanceof Refused && error.reason !== 'offline'

const queries = new QueryClient({
  defaultOptions: { queries: { retry: (tries, error) => tries < 1 && !isRefusal(error), refetchOnWindowFocus: true } },
})

show()
followAccount()
await startLanguage()

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <Boundary place="page">
          <Suspense fallback={<Loading />}>
            <Routes>
              <Route path="/" element={<Today />} />
              <Route path="/sign-in" element={<SignIn />} />
              <Route path="/set-up" element={<SetUpPage />} />
              <Route path="/forgot" element={<ForgotPage />} />
              <Route path="/reset" element={<ResetPage />} />
              <Route path="/confirm" element={<ConfirmPage />} />
              <Route path="/join" element={<JoinPage />} />
              <Route path="/account" element={<AccountPage />} />
              <Route path="/hosts" element={<HostsPage />} />
              <Route path="/house" element={<HousePage />} />
              <Route path="/plan/:id" element={<PlanPage />} />
              <Route path="/contacts" element={<ContactsPage />} />
              <Route path="/outbox" element={<OutboxPage />} />
              <Route path="/recordings" element={<LibraryPage />} />
              <Route path="/recordings/:id" element={<RecordingPage />} />
              <Route path="/shared" element={<SharedPage />} />
              <Route path="/answer" element={<AnswerPage />} />
              <Route path="/s/:link" element={<DoorPage />} />
              <Route path="*" element={<NothingHere />} />
            </Routes>
          </Suspense>
        </Boundary>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
)
