import { createRouter, createWebHistory } from 'vue-router';
import ShelfStation from './stations/shelf/ShelfStation.vue';

/** The stations that work on the open song, in the order of the work. */
export const STATIONS = [
  { name: 'chords', label: 'Chords' },
  { name: 'strum', label: 'Strum' },
  { name: 'song', label: 'Song' },
  { name: 'changes', label: 'Changes' },
  { name: 'practice', label: 'Practice' },
  { name: 'along', label: 'Along' },
  { name: 'sheet', label: 'Sheet' },
] as const;

const chords = () => import('./stations/chords/ChordsStation.vue');
const strum = () => import('./stations/strum/StrumStation.vue');
const song = () => import('./stations/song/SongStation.vue');
const changes = () => import('./stations/changes/ChangesStation.vue');
const practice = () => import('./stations/practice/PracticeStation.vue');
const along = () => import('./stations/along/AlongStation.vue');
const sheet = () => import('./stations/sheet/SheetStation.vue');
const alone = () => import('./stations/practice/PatternAlone.vue');
const log = () => import('./stations/log/LogStation.vue');
const phone = () => import('./stations/shelf/OnMyPhone.vue');
const about = () => import('./stations/shelf/AboutPage.vue');
const newSong = () => import('./stations/shelf/NewSong.vue');
const frame = () => import('./stations/SongFrame.vue');
const stand = () => import('./stations/stand/StandView.vue');
const nothing = () => import('./stations/NothingHere.vue');

/** Loads every station ahead of its use, so that all of them work while the server is away. */
export async function loadStations(): Promise<void> {
  await Promise.all([
    frame(),
    strum(),
    song(),
    chords(),
    changes(),
    practice(),
    along(),
    sheet(),
    alone(),
    log(),
    newSong(),
    phone(),
    about(),
    stand(),
    nothing(),
    import('./stations/shelf/openFile'),
  ]);
  const [{ fetchWorkers }] = await Promise.all([import('./workers/ahead'), import('svguitar')]);
  await fetchWorkers();
}

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    // The shelf is what a player sees first, so it comes with the app and not after it.
    { path: '/', name: 'shelf', component: ShelfStation },
    { path: '/new', name: 'new', component: newSong },
    { path: '/phone', name: 'phone', component: phone },
    { path: '/about', name: 'about', component: about },
    { path: '/patterns', name: 'patterns', component: alone },
    { path: '/log', name: 'log', component: log },
    {
      path: '/songs/:id',
      component: frame,
      props: true,
      children: [
        { path: '', redirect: { name: 'song' } },
        { path: 'chords', name: 'chords', component: chords },
        { path: 'strum', name: 'strum', component: strum },
        { path: 'song', name: 'song', component: song },
        { path: 'changes', name: 'changes', component: changes },
        { path: 'practice', name: 'practice', component: practice },
        { path: 'along', name: 'along', component: along },
        { path: 'sheet', name: 'sheet', component: sheet },
        { path: 'stand/:of(song|strum|along)', name: 'stand', component: stand, props: true },
      ],
    },
    { path: '/:rest(.*)*', component: nothing },
  ],
});
