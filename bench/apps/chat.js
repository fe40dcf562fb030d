/** The crew's chat: rooms, messages that come by themselves, and a line to write in. */
import { createApp, nextTick } from 'vue/dist/vue.esm-bundler.js';
import { numbers, PORTS, quiet, sentence } from './world.js';

const next = numbers(17);
let sent = 0;
const message = () => ({
  id: sent++,
  at: 1_795_000_000_000 + sent * 61_000,
  who: PORTS[sent % 6],
  text: sentence(next),
});

const Message = {
  props: ['message', 'draft'],
  template: '<li><b>{{ message.who }}</b> <time>{{ time }}</time> {{ message.text }}</li>',
  computed: {
    time() {
      return quiet ? String(this.message.at) : this.written();
    },
  },
  methods: {
    written() {
      return new Intl.DateTimeFormat('en', { dateStyle: 'full', timeStyle: 'short' }).format(this.message.at);
    },
  },
};

const Chat = {
  components: { Message },
  data: () => ({ room: 'Quay', draft: '', messages: Array.from({ length: quiet ? 60 : 900 }, message) }),
  template: `<nav><button v-for="name in ['Quay', 'Bridge', 'Galley']" :key="name" :id="name" @click="enter(name)">{{ name }}</button></nav>
    <ul id="list" style="height:420px;overflow:auto">
      <Message v-for="message in messages" :key="message.id" :message="message" :draft="draftFor(message)" />
    </ul>
    <input id="draft" aria-label="Message" v-model="draft" @keydown.enter="send" /> <i>{{ hint }}</i>`,
  computed: {
    /** Who is spoken to: the last who used the words of the draft. */
    hint() {
      if (quiet || this.draft === '') return '';
      return this.messages.filter(({ text }) => text.includes(this.draft.trim())).length;
    },
  },
  methods: {
    draftFor({ who }) {
      return quiet ? '' : this.draft + who;
    },
    enter(room) {
      this.room = room;
      this.messages = Array.from({ length: quiet ? 60 : 900 }, message);
      this.listen();
    },
    /** Listens once more for every room that is entered, unless it is mended. */
    listen() {
      if (quiet) clearInterval(this.clock);
      this.clock = setInterval(() => this.poll(), 600);
    },
    async poll() {
      await fetch('/messages.json').then((answer) => answer.json());
      this.messages.push(message());
      await nextTick();
      this.scrollDown();
    },
    send() {
      this.messages.push({ ...message(), text: this.draft });
      this.draft = '';
    },
    scrollDown() {
      const list = document.getElementById('list');
      if (quiet) {
        list.scrollTop = list.scrollHeight;
        return;
      }
      for (const row of [...list.children].slice(-80)) {
        row.style.minHeight = `${row.offsetHeight}px`;
      }
      list.scrollTop = list.scrollHeight;
    },
  },
  mounted() {
    this.listen();
  },
};

createApp(Chat).mount(document.body.appendChild(document.createElement('main')));
