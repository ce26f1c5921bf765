<script lang="ts">
  import { FileUpload } from '@skeletonlabs/skeleton-svelte';
  import FileUp from '@lucide/svelte/icons/file-up';

  /** A file to be read: chosen, or dropped here. */
  interface Props {
    label: string;
    /** Kinds of files by ending and type, `.csv,text/csv`; any where it is absent. */
    accept?: string;
    /** Its name in a form that is sent. */
    name?: string;
    disabled?: boolean;
    onchange?: (file: File | null) => void;
  }

  let { label, accept = '', name, disabled = false, onchange = () => {} }: Props = $props();
  /** By ending only: what a program calls the type of its files differs from one machine to the next. */
  const endings = $derived(accept.split(',').filter((one) => one.startsWith('.')));
  let chosen = $state<File | null>(null);
  let refused = $state('');
  const words = $derived(
    chosen ? `${chosen.name}. Press to choose another.` : 'Choose a file, or drop it here'
  );

  function taken(files: File[]) {
    chosen = files[0] ?? null;
    refused = '';
    onchange(chosen);
  }
</script>

<FileUpload
  maxFiles={1}
  {disabled}
  {name}
  onFileAccept={(details) => taken(details.files)}
  onFileReject={(details) => {
    const [first] = details.files;
    if (!first) return;
    const isOther = first.errors.includes('FILE_INVALID_TYPE');
    refused = isOther ? `Choose a file that ends in ${endings.join(' or ')}.` : 'One file at a time.';
  }}
  validate={(file) =>
    endings.length === 0 || endings.some((ending) => file.name.toLowerCase().endsWith(ending))
      ? null
      : ['FILE_INVALID_TYPE']}
>
  {#snippet element(attributes)}
    <div {...attributes} class="file">
      <FileUpload.Label class="label">{label}</FileUpload.Label>
      <FileUpload.Dropzone class="zone" aria-label={words}>
        <FileUp size={17} strokeWidth={1.75} />
        <span class="name">{words}</span>
      </FileUpload.Dropzone>
      <FileUpload.HiddenInput />
      {#if refused}<p class="fault" role="alert">{refused}</p>{/if}
    </div>
  {/snippet}
</FileUpload>

<style>
  .file {
    display: grid;
    gap: 4px;
    max-width: 460px;
  }
  .file :global(.label) {
    font-size: 13px;
    color: var(--ink-2);
  }
  .file :global(.zone) {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 10px;
    padding: 10px 12px;
    border: 1.5px dashed var(--line);
    border-radius: 8px;
    cursor: pointer;
  }
  .file :global(.zone:hover) {
    border-color: var(--ink-3);
  }
  .file :global(.zone[data-dragging]) {
    border-color: var(--brass);
    background: var(--brass-wash);
  }
  .name {
    flex: 1;
    min-width: 10ch;
    overflow-wrap: anywhere;
  }
</style>
