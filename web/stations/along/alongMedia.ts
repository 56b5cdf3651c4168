import { useEventListener, useRafFn } from '@vueuse/core';
import { onBeforeUnmount, ref, watch } from 'vue';

/** A recording that plays: where it is, how fast, and the stretch that comes again. */
export function useAlongMedia(url: () => string | null) {
  const media = new Audio();
  media.preload = 'auto';
  const seconds = ref(0);
  const playing = ref(false);
  const speed = ref(1);
  const level = ref(0.9);
  /** From second to second; null for all of it. */
  const loop = ref<{ from: number; to: number } | null>(null);

  watch(
    url,
    (now) => {
      media.pause();
      if (now) media.src = now;
      else media.removeAttribute('src');
    },
    { immediate: true },
  );
  watch(
    speed,
    (now) => {
      media.preservesPitch = true;
      media.defaultPlaybackRate = now;
      media.playbackRate = now;
    },
    { immediate: true },
  );
  watch(level, (now) => (media.volume = now), { immediate: true });

  const { pause: rest, resume } = useRafFn(
    () => {
      const { value: turn } = loop;
      if (turn && media.currentTime >= turn.to) media.currentTime = turn.from;
      seconds.value = media.currentTime;
    },
    { immediate: false },
  );
  useEventListener(media, 'play', () => {
    playing.value = true;
    resume();
  });
  useEventListener(media, 'pause', () => {
    playing.value = false;
    rest();
    seconds.value = media.currentTime;
  });
  useEventListener(media, 'seeked', () => (seconds.value = media.currentTime));
  onBeforeUnmount(() => {
    media.pause();
    media.removeAttribute('src');
    media.load();
  });

  async function play(): Promise<void> {
    const turn = loop.value;
    if (turn && (media.currentTime < turn.from || media.currentTime >= turn.to)) {
      media.currentTime = turn.from;
    }
    media.playbackRate = speed.value;
    await media.play();
  }
  function toggle(): void {
    if (media.paused) void play();
    else media.pause();
  }
  function seek(to: number): void {
    media.currentTime = Math.max(0, to);
    seconds.value = media.currentTime;
  }
  return { media, seconds, playing, speed, level, loop, play, toggle, seek };
}
