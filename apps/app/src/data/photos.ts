import type { PhotoPlace } from '@evenround/contract/photo'
import { PHOTO_SIDE } from '@evenround/contract/protocol'
import { say } from '@evenround/core/words'
import { createStore, del, set, entries as storedEntries } from 'idb-keyval'
import { v7 as uuidv7 } from 'uuid'
import { create } from 'zustand'
import { onServerBack } from './api'
import { editsWait, useKeptEdits } from './kept-edits'
import { useOutbox } from './outbox'
import { queryClient } from './queries'
import { keep, letGo } from './room'
import { type Sent, sendAll, sendingLine } from './sending'

/** A photo on this device, until the server has it. A refused one stays to be looked at. */
export interface WaitingPhoto {
  id: string
  owner: string
  place: PhotoPlace
  jpeg: Blob
  state: 'waiting' | 'refused'
}

interface PhotoState {
  photos: WaitingPhoto[]
  trouble: boolean
}

const disk = createStore('even-round-photos', 'photos')
export const usePhotos = create<PhotoState>(() => ({ photos: [], trouble: false }))

const QUALITY = 0.82

/** The picture small enough for a thin network, drawn anew: nothing the camera wrote into the file comes along. */
async function shrunk(file: Blob): Promise<Blob> {
  const image = await createImageBitmap(file, { imageOrientation: 'from-image' })
  const share = Math.min(1, PHOTO_SIDE / Math.max(image.width, image.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(image.width * share))
  canvas.height = Math.max(1, Math.round(image.height * share))
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height)
  image.close()
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error(say`the picture cannot be drawn`))), 'image/jpeg', QUALITY),
  )
}

/** Keeps a photo on the device and sends it once the facts are through. Throws where the file is no picture. */
export async function keepPhoto(owner: string, place: Omit<PhotoPlace, 'takenAt'>, file: Blob): Promise<void> {
  const jpeg = await shrunk(file)
  const photo: WaitingPhoto = { id: uuidv7(), owner, place: { ...place, takenAt: new Date().toISOString() }, jpeg, state: 'waiting' }
  await keep([photo.id], () => set(photo.id, photo, disk))
  usePhotos.setState(({ photos }) => ({ photos: [...photos, photo] }))
  void sendPhotos()
}

/** Takes back a photo that is still on the device. */
export async function dropPhoto(id: string): Promise<void> {
  await del(id, disk)
  letGo([id])
  usePhotos.setState(({ photos }) => ({ photos: photos.filter((photo) => photo.id !== id) }))
}

/** Photos of this person of this firm only, as with facts. */
export async function openPhotos(owner: string): Promise<void> {
  const all = (await storedEntries<string, WaitingPhoto>(disk)).map(([, photo]) => photo)
  usePhotos.setState({ photos: all.filter((photo) => photo.owner === owner), trouble: false })
  void sendPhotos()
}

async function send([photo]: readonly WaitingPhoto[]): Promise<Sent> {
  if (!photo) return 'settled'
  const { id, place, jpeg } = photo
  const said = Object.entries(place).filter((entry): entry is [string, string] => entry[1] !== undefined)
  const address = `/api/photos/${id}?${new URLSearchParams(said).toString()}`
  const response = await fetch(address, { method: 'PUT', headers: { 'content-type': 'image/jpeg' }, body: jpeg }).catch(() => null)
  if (response === null || response.status === 401 || response.status >= 500 || response.status === 429) return 'later'
  if (!response.ok) return 'refused'
  await dropPhoto(id)
  void queryClient.invalidateQueries({ queryKey: place.visitId === undefined ? ['site', place.siteId] : ['visit', place.visitId] })
  return 'settled'
}

/** Keeps a photo that the server refuses apart, to be looked at. */
async function quarantine(photo: WaitingPhoto): Promise<void> {
  const refused: WaitingPhoto = { ...photo, state: 'refused' }
  await keep([photo.id], () => set(photo.id, refused, disk))
  usePhotos.setState(({ photos }) => ({ photos: photos.map((one) => (one.id === photo.id ? refused : one)) }))
}

/** What a photo is of has to be there first: new sites, then facts. */
const othersWait = (): boolean => editsWait() || factsWait()
const factsWait = (): boolean => useOutbox.getState().entries.some(({ state }) => state === 'waiting')
const waiting = (): WaitingPhoto[] => usePhotos.getState().photos.filter(({ state }) => state === 'waiting')

const line = sendingLine({
  lock: 'even-round.photos',
  wanted: () => !othersWait() && waiting().length > 0,
  sendWaiting: () => sendAll({ most: 1, waiting, send, quarantine }),
  onTried: (good) => usePhotos.setState({ trouble: !good }),
})

/** Sends what waits, one by one, after the facts; without a network it tries again by itself. */
export const sendPhotos = (): Promise<void> => line.flush()

if (typeof window !== 'undefined') {
  window.addEventListener('online', () => void line.flushNow())
  onServerBack(() => void line.flushNow())
}
// Facts are small and come first: photos follow once none waits.
useOutbox.subscribe((now, before) => {
  if (now.entries !== before.entries && !othersWait()) void sendPhotos()
})
useKeptEdits.subscribe(() => {
  if (!othersWait()) void sendPhotos()
})
