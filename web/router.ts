import { createRouter, createWebHistory } from 'vue-router';
import ShelfStation from './stations/shelf/ShelfStation.vue';

/** The stations that work on the open song, in the order of the work. */
export const STATIONS = [
  { name: 'chords', label: 'Chords' },
  { name: 'strum', label: 'Strum' },
  { name: 'song', label: 'Song' },
] as const;

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    // The shelf is what a player sees first, so it comes with the app and not after it.
    { path: '/', name: 'shelf', component: ShelfStation },
    { path: '/new', name: 'new', component: () => import('./stations/shelf/NewSong.vue') },
    {
      path: '/songs/:id',
      component: () => import('./stations/SongFrame.vue'),
      props: true,
      children: [
        { path: '', redirect: { name: 'song' } },
        {
          path: 'chords',
          name: 'chords',
          component: () => import('./stations/chords/ChordsStation.vue'),
        },
        {
          path: 'strum',
          name: 'strum',
          component: () => import('./stations/strum/StrumStation.vue'),
        },
        { path: 'song', name: 'song', component: () => import('./stations/song/SongStation.vue') },
      ],
    },
    { path: '/:rest(.*)*', component: () => import('./stations/NothingHere.vue') },
  ],
});
