import {
  CategoryScale,
  Chart,
  LinearScale,
  LineElement,
  PointElement,
  Tooltip,
  type ChartOptions,
  type Plugin,
} from 'chart.js';
import { useEffect, useState } from 'react';
import { Line } from 'react-chartjs-2';
import { capital } from '../../core/capital';
import { figureText } from '../../core/results/figure-text';
import type { FiguresView } from '../../core/results/figures-view';
import { measureWords } from '../../core/results/measures';
import { dayWords, monthWords } from '../../ui/text/time';

Chart.register(CategoryScale, LinearScale, PointElement, LineElement, Tooltip);
Chart.defaults.font.family = '"Schibsted Grotesk Variable", sans-serif';

/** Colours of the theme that is shown; drawn anew when it changes. */
function useInks() {
  const [inks, setInks] = useState<{ ink: string; quiet: string; line: string; sound: string } | null>(null);
  useEffect(() => {
    const read = () => {
      const style = getComputedStyle(document.documentElement);
      const of = (name: string) => style.getPropertyValue(`--color-${name}`).trim();
      setInks({ ink: of('base-content'), quiet: of('quiet'), line: of('base-300'), sound: of('success') });
    };
    read();
    const night = matchMedia('(prefers-color-scheme: dark)');
    night.addEventListener('change', read);
    const watcher = new MutationObserver(read);
    watcher.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
    return () => {
      night.removeEventListener('change', read);
      watcher.disconnect();
    };
  }, []);
  return inks;
}

/** The course of the first measure, a line for each of the largest groups, named where it ends. */
export function FiguresChart({ view }: { view: FiguresView }) {
  const inks = useInks();
  const { chart, counted, currency } = view;
  const main = counted[0]!;
  if (chart.labels.length < 2 || chart.series.length === 0) return null;
  const styles = inks
    ? [
        { borderColor: inks.ink, borderDash: [] },
        { borderColor: inks.sound, borderDash: [] },
        { borderColor: inks.ink, borderDash: [6, 3] },
        { borderColor: inks.sound, borderDash: [6, 3] },
        { borderColor: inks.quiet, borderDash: [2, 3] },
      ]
    : [];
  const marks = view.dayNotes.map(({ day }) => chart.labels.findLastIndex((label) => label <= day));
  const words = (label: string) => (chart.each === 'month' ? monthWords(label) : dayWords(label));
  const options: ChartOptions<'line'> = {
    animation: false,
    responsive: true,
    maintainAspectRatio: false,
    interaction: { mode: 'index', intersect: false },
    layout: { padding: { right: chart.series[0]!.words === '' ? 8 : 150, top: 8 } },
    scales: {
      x: {
        grid: { display: false },
        border: { color: inks?.line ?? '' },
        ticks: { color: inks?.quiet ?? '', maxTicksLimit: 9, maxRotation: 0 },
      },
      y: {
        beginAtZero: true,
        grid: { color: inks?.line ?? '' },
        border: { display: false },
        ticks: {
          color: inks?.quiet ?? '',
          maxTicksLimit: 5,
          callback: (value) => figureText(main, Number(value), currency),
        },
      },
    },
    plugins: {
      legend: { display: false },
      tooltip: {
        callbacks: {
          label: ({ dataset, raw }) =>
            `${dataset.label ? `${dataset.label}: ` : ''}${raw === null ? 'nothing' : figureText(main, Number(raw), currency)}`,
        },
      },
    },
  };
  return (
    <figure className="mt-2 mb-4">
      <figcaption className="text-quiet text-[13px]">
        {capital(measureWords(main))} by {chart.each}
      </figcaption>
      <div className="h-[190px]">
        {inks && (
          <Line
            aria-label={`${measureWords(main)} by ${chart.each}; the table below has the same figures`}
            role="img"
            data={{
              labels: chart.labels.map(words),
              datasets: chart.series.map(({ words: label, values }, i) => ({
                label,
                data: values,
                ...styles[i % styles.length]!,
                borderWidth: 1.8,
                pointRadius: chart.labels.length > 20 ? 0 : 2,
                pointBackgroundColor: styles[i % styles.length]!.borderColor,
                spanGaps: false,
              })),
            }}
            options={options}
            // A plugin is taken once: drawn anew where it marks something else.
            key={marks.join()}
            plugins={[namesAtEnds, marksOfDays(marks, inks.ink)]}
          />
        )}
      </div>
    </figure>
  );
}

/** Numbers the days of which something was noted. @param marks the place of each note's day, week or month */
const marksOfDays = (marks: readonly number[], colour: string): Plugin<'line'> => ({
  id: 'marksOfDays',
  afterDatasetsDraw({ ctx, chartArea, scales }) {
    ctx.save();
    ctx.font = '11px "Schibsted Grotesk Variable", sans-serif';
    ctx.textAlign = 'center';
    ctx.fillStyle = ctx.strokeStyle = colour;
    for (const [at, mark] of marks.entries()) {
      if (mark < 0) continue;
      const x = scales.x!.getPixelForValue(mark);
      ctx.beginPath();
      ctx.setLineDash([1, 3]);
      ctx.moveTo(x, chartArea.top + 4);
      ctx.lineTo(x, chartArea.bottom);
      ctx.stroke();
      // Notes of one day stand beneath each other.
      const above = marks.slice(0, at).filter((other) => other === mark).length;
      ctx.fillText(String(at + 1), x, chartArea.top + above * 12);
    }
    ctx.restore();
  },
});

const lineHeight = 15;

/** Writes each line's name where it ends, none over another. */
const namesAtEnds: Plugin<'line'> = {
  id: 'namesAtEnds',
  afterDatasetsDraw(chart) {
    const { ctx, chartArea, data } = chart;
    const ends = data.datasets.flatMap(({ label, borderColor }, i) => {
      const last = chart.getDatasetMeta(i).data.at(-1);
      return label && last ? [{ label, colour: String(borderColor), y: last.y }] : [];
    });
    ends.sort((a, b) => a.y - b.y);
    let free = chartArea.top - lineHeight;
    const placed = ends.map((end) => ({ ...end, y: (free = Math.max(end.y, free + lineHeight)) }));
    const over = Math.max(0, free - chartArea.bottom);
    ctx.save();
    ctx.font = '13px "Schibsted Grotesk Variable", sans-serif';
    ctx.textBaseline = 'middle';
    for (const { label, colour, y } of placed) {
      ctx.fillStyle = colour;
      const text = label.length > 22 ? `${label.slice(0, 21)}…` : label;
      ctx.fillText(text, chartArea.right + 8, y - over);
    }
    ctx.restore();
  },
};
