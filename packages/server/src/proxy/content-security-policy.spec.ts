import { describe, expect, it } from 'vitest';
import { adaptPolicy } from './content-security-policy';

const permit = {
  scriptUrls: ['http://localhost:4781/__nettle-patch/recorder.js'],
  senderUrl: 'http://localhost:4781/__nettle-patch/sender.js',
  nonce: 'quay',
};
const adapt = (policy: string) => adaptPolicy(policy, permit);
const {
  scriptUrls: [URL_],
  senderUrl: WORKER,
} = permit;

describe('a content security policy', () => {
  it('gets the recorder as one more script and one more worker, and keeps the rest', () => {
    expect(adapt("script-src 'self'; img-src *")).toBe(
      `script-src 'self' ${URL_}; img-src *; worker-src 'self' ${WORKER}`,
    );
  });

  it('is not widened for everything else when only default-src governs scripts', () => {
    expect(adapt("default-src 'self'")).toBe(
      `default-src 'self'; script-src 'self' ${URL_}; worker-src 'self' ${WORKER}`,
    );
  });

  it("replaces 'none', beside which nothing may stand", () => {
    expect(adapt("script-src 'none'; worker-src 'none'")).toBe(`script-src ${URL_}; worker-src ${WORKER}`);
  });

  it('gets a nonce where addresses do not count, and only there, as a nonce would turn unsafe-inline off', () => {
    expect(adapt("script-src 'strict-dynamic' 'nonce-a'")).toContain("'nonce-quay'");
    expect(adapt("script-src 'unsafe-inline'")).not.toContain('nonce');
  });

  it('prefers script-src-elem where there is one', () => {
    expect(adapt("script-src-elem 'self'; script-src 'none'")).toBe(
      `script-src-elem 'self' ${URL_}; script-src 'none'; worker-src ${WORKER}`,
    );
  });

  it('allows the name of the policy the recorder needs under trusted types', () => {
    expect(adapt("require-trusted-types-for 'script'; trusted-types desk")).toContain(
      'trusted-types desk nettle-patch',
    );
  });

  it('lets a page ask what it waits for, and ask nothing else', () => {
    const askedUrl = 'http://localhost:4781/__nettle-patch/in-work';
    const asking = (policy: string) => adaptPolicy(policy, { ...permit, askedUrl });
    expect(asking("img-src *; connect-src 'none'")).toContain(`connect-src ${askedUrl}`);
    expect(asking("default-src 'self'")).toContain(`; connect-src 'self' ${askedUrl}`);
    expect(asking('img-src *')).not.toContain('connect-src');
    expect(adapt("default-src 'self'")).not.toContain('connect-src');
  });

  it('is adapted each where there are several, and left alone where scripts are free', () => {
    expect(adapt("img-src 'self', script-src 'self'")).toBe(
      `img-src 'self', script-src 'self' ${URL_}; worker-src 'self' ${WORKER}`,
    );
  });
});
