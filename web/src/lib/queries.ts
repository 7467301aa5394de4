import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, api, type Bottle, type PlateRow, type Profile, type Review } from './api'

export const useBench = () => useQuery({ queryKey: ['bench'], queryFn: () => answer(api.GET('/api/v1/bench')) })
export const useSettings = () =>
  useQuery({ queryKey: ['settings'], queryFn: () => answer(api.GET('/api/v1/settings')) })
/** The help as it ships with the program. */
export const useGuide = () =>
  useQuery({ queryKey: ['guide'], staleTime: Infinity, queryFn: () => answer(api.GET('/api/v1/guide')) })
export const useMachines = () =>
  useQuery({ queryKey: ['machines'], queryFn: () => answer(api.GET('/api/v1/machines')) })
export const useResins = () => useQuery({ queryKey: ['resins'], queryFn: () => answer(api.GET('/api/v1/resins')) })
export const useBottles = () =>
  useQuery({ queryKey: ['bottles'], queryFn: async () => (await answer(api.GET('/api/v1/bottles'))) as Bottle[] })
export const useInstruments = () =>
  useQuery({ queryKey: ['instruments'], queryFn: () => answer(api.GET('/api/v1/instruments')) })
export const usePanels = () =>
  useQuery({ queryKey: ['panels', 'all'], queryFn: () => answer(api.GET('/api/v1/panels')) })
export const usePieces = () => useQuery({ queryKey: ['pieces'], queryFn: () => answer(api.GET('/api/v1/pieces')) })
export const useFeatureMarks = (id: string) =>
  useQuery({
    queryKey: ['feature marks', id],
    queryFn: () => answer(api.GET('/api/v1/pieces/{id}/marks', { params: { path: { id } } })),
  })
export const useSettingsCards = () =>
  useQuery({ queryKey: ['profiles'], queryFn: () => answer(api.GET('/api/v1/profiles')) })
/** Settings to print with: those withdrawn, and those of series cells, are not offered. */
export const useProfiles = () =>
  useQuery({
    queryKey: ['profiles'],
    queryFn: () => answer(api.GET('/api/v1/profiles')),
    select: (cards) =>
      cards
        .filter((c) => c.profile.archived_ms == null && c.profile.basis !== 'series')
        .map((c) => ({ ...(c.profile as Profile), label: `${c.name}, ${c.profile.layer_um} µm` })),
  })
export const useSeriesList = () => useQuery({ queryKey: ['series'], queryFn: () => answer(api.GET('/api/v1/series')) })
export const useSeries = (id: string) =>
  useQuery({
    queryKey: ['series', id],
    queryFn: () => answer(api.GET('/api/v1/series/{id}', { params: { path: { id } } })),
  })
export interface RunFilter {
  machine_id?: string
  resin_id?: string
  piece_id?: string
  shape?: '' | 'whole' | 'nicked' | 'split' | 'ring' | 'open'
  code?: string
  skip?: number
  most?: number
}
/** A page of runs; the one before stays while the next is read. */
export const useRuns = (filter: RunFilter) =>
  useQuery({
    queryKey: ['runs', 'page', filter],
    placeholderData: keepPreviousData,
    queryFn: () => answer(api.GET('/api/v1/runs', { params: { query: filter } })),
  })
export const useRunSheet = (id: string) =>
  useQuery({
    queryKey: ['runs', id],
    queryFn: () => answer(api.GET('/api/v1/runs/{id}', { params: { path: { id } } })),
  })
export const useReviews = () =>
  useQuery({ queryKey: ['reviews'], queryFn: async () => (await answer(api.GET('/api/v1/reviews'))) as Review[] })
export const useSetUps = (id: string, all_pieces = false) =>
  useQuery({
    queryKey: ['set-ups', id, all_pieces],
    enabled: id !== '',
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/set-ups', { params: { path: { id }, query: { all_pieces } } })),
  })
export const useLeftOut = (id: string) =>
  useQuery({
    queryKey: ['left-out', id],
    enabled: id !== '',
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/left-out', { params: { path: { id } } })),
  })
/** What is planned for a review, in its drawn order. */
export const useReviewPlan = (id: string) =>
  useQuery({
    queryKey: ['review-plan', id],
    enabled: id !== '',
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/plan', { params: { path: { id } } })),
  })
export const useDeciding = (id: string) =>
  useQuery({
    queryKey: ['deciding', id],
    enabled: id !== '',
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/deciding', { params: { path: { id } } })),
  })
export const useMatrix = (id: string) =>
  useQuery({
    queryKey: ['matrix', id],
    enabled: id !== '',
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/matrix', { params: { path: { id } } })),
  })
export const usePlates = () =>
  useQuery({ queryKey: ['plates'], queryFn: async () => (await answer(api.GET('/api/v1/plates'))) as PlateRow[] })
export const usePlate = (id: string) =>
  useQuery({
    queryKey: ['plates', id],
    enabled: id !== '',
    // Leaving the page ends the cutting of slices that it waits for.
    queryFn: ({ signal }) => answer(api.GET('/api/v1/plates/{id}', { params: { path: { id } }, signal })),
  })
export const useReferences = () =>
  useQuery({ queryKey: ['references'], queryFn: () => answer(api.GET('/api/v1/references')) })

export const useReference = (id: string) =>
  useQuery({
    queryKey: ['references', id],
    queryFn: () => answer(api.GET('/api/v1/references/{id}', { params: { path: { id } } })),
  })

export const useAssemblies = () =>
  useQuery({ queryKey: ['assemblies'], queryFn: () => answer(api.GET('/api/v1/assemblies')) })
