import 'apexcharts/dist/apexcharts.css';
import type ApexCharts from 'apexcharts';

/** The library writes its style sheet into the page, which our pages do not allow, unless an element of this name is there already. */
const STYLES_ARE_HERE = 'apexcharts-css';

/**
 * The chart library, loaded when somebody looks at a chart: nothing else waits for it. Its style sheet comes with ours.
 * @param box where the chart will stand; it is loaded once that is in view
 */
export async function loadChart(box: Element): Promise<typeof ApexCharts> {
  await inView(box);
  if (!document.getElementById(STYLES_ARE_HERE)) {
    const here = document.createElement('meta');
    here.id = STYLES_ARE_HERE;
    document.head.append(here);
  }
  const { default: Chart } = await import('apexcharts');
  return Chart;
}

function inView(box: Element): Promise<void> {
  return new Promise((resolve) => {
    const observer = new IntersectionObserver((entries) => {
      if (!entries.some(({ isIntersecting }) => isIntersecting)) return;
      observer.disconnect();
      resolve();
    });
    observer.observe(box);
  });
}
