import { useQuery } from '@tanstack/react-query'
import { recordings } from '../api/client'

/** What is said in a film, fetched once for all who show it. */
export const useTranscript = (recording: string, film: string | null) =>
  useQuery({
    queryKey: ['transcript', recording, film],
    queryFn: () => recordings.transcript(recording, film!),
    enabled: film !== null,
  })
