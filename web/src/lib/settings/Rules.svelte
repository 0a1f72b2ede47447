<!-- The rules that these books can tighten or relax. -->
<script lang="ts">
  import { type Schemas } from '../api/client';
  import { getSettings } from './settings.svelte';
  import { Attempt } from '../api/attempt.svelte';
  import Problem from '../ui/Problem.svelte';

  let { rules }: { rules: Schemas['RuleView'][] } = $props();
  const settings = getSettings();
  const attempt = new Attempt();
  const LEVELS: [Schemas['Level'], string][] = [
    ['stop', 'is stopped'],
    ['caution', 'waits until it was read'],
    ['off', 'goes through'],
  ];
  const words = (level: Schemas['Level']) => LEVELS.find(([key]) => key === level)?.[1] ?? level;

  async function change(rule: Schemas['RelaxableRule'], level: string) {
    await attempt.run(async () => {
      await settings.change({ rule: { rule, level: level as Schemas['Level'] } });
    });
  }
</script>

<table class="ledger">
  <thead><tr><th>Rule</th><th>A plan that breaks it</th><th>By itself</th></tr></thead>
  <tbody>
    {#each rules as rule (rule.rule)}
      <tr>
        <td class="py-2 pr-6">
          {rule.sentence}.
          <span class="hint block leading-snug">{rule.reason}</span>
        </td>
        <td class="align-middle">
          <select
            class={['select', rule.level !== rule.default && 'text-warning']}
            aria-label={rule.sentence}
            disabled={!settings.may('configure')}
            value={rule.level}
            onchange={(e) => change(rule.rule, e.currentTarget.value)}
          >
            {#each LEVELS as [key, says] (key)}<option value={key}>{says}</option>{/each}
          </select>
        </td>
        <td class="text-soft align-middle whitespace-nowrap">{words(rule.default)}</td>
      </tr>
    {/each}
  </tbody>
</table>
<Problem of={attempt} class="mt-2" />
