import { registerCapture } from './page/capture-registry';
import { FineSamples, type FineSink } from './page/fine/fine-samples';
import { provideLooks } from './page/fine/provided';
import { shared, sharedByNow } from './page/shared';

const closer = document.currentScript?.dataset['closer'] ?? '';
document.currentScript?.remove();
if (shared.fine === undefined) {
  let sink: FineSink = () => undefined;
  const samples = new FineSamples((...told) => sink(...told), closer);
  registerCapture(({ tell, entries }) => {
    sharedByNow()!.fine = samples;
    sink = tell;
    entries.onOutermost(() => samples.sampler.unwind());
    return samples;
  });
  provideLooks(samples.sampler, closer !== '');
} else provideLooks((shared.fine as FineSamples).sampler, closer !== '');
