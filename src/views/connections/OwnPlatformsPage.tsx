import type { ConnectionsView } from '../../core/connections/view';
import type { OwnPlatform } from '../../core/platforms/schema';
import type { Sentence } from '../../core/strands';
import { counted } from '../../core/strands';
import { useOpen } from '../../ui/address/useOpen';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import { useDraftWatch } from '../../ui/rule/useDraftWatch';
import { ConnectionsFrame } from './ConnectionsFrame';
import { PageTellingRows } from './PageTelling';
import { PlaceholderRows } from './PlaceholderRows';
import { PlatformPreview } from './PlatformPreview';
import { ShortName } from './ShortName';
import { TellingRows } from './TellingRows';

interface Props {
  business: string;
  initial: ConnectionsView;
  search: string;
}

/** Platforms that a business describes itself: their click ID, limits, placeholders, and how they are told. */
export function OwnPlatformsPage(props: Props) {
  return (
    <Live>
      <OwnPlatforms {...props} />
    </Live>
  );
}

const sentenceOf = (platforms: OwnPlatform[]): Sentence => ({
  title:
    platforms.length === 0
      ? 'Describe a platform that Avrix does not know.'
      : `You describe ${counted(platforms.length, 'platform', 'platforms')} yourself: ${platforms.map(({ words }) => words).join(', ')}.`,
  under:
    'Its click ID is kept, its placeholders are offered for links, and it is told over HTTP, like the ones that Avrix knows.',
});

function OwnPlatforms({ business, initial, search }: Props) {
  useDraftWatch(business);
  const view = useView(`/api/b/${business}/connections`, initial);
  const open = useOpen('platform', search);
  return (
    <ConnectionsFrame
      business={business}
      section="Own platforms"
      sentence={sentenceOf(view.ownPlatforms)}
      actions={view.mayChange && <NewRule words="Describe a platform" open={open} />}
    >
      {view.ownPlatforms.length === 0 && !open.isNew ? (
        <p className="text-quiet">
          You need what its documentation says of three things: the name of its click ID in addresses, how old a click
          may be, and the call that takes conversions.
        </p>
      ) : (
        <RuleStation
          business={business}
          kind="platform"
          view={view}
          label="Own platforms"
          fresh="New platform"
          rules={view.ownPlatforms}
          open={open}
          item={({ words, kind, clickParameters }) => ({
            words: words || kind,
            under:
              clickParameters.length > 0
                ? `click ID in ${clickParameters.join(', ')}`
                : 'takes events; brings no clicks',
          })}
          beside={{ platforms: view.ownPlatforms }}
          title={({ words, kind }) => words || kind}
          beneath={({ rule, edit, isNew }) => (
            <>
              {isNew && <ShortName words={rule.words} kind={rule.kind} onKind={(kind) => edit({ kind })} />}
              <PlaceholderRows rule={rule} disabled={!view.mayChange} onEdit={edit} />
              <TellingRows rule={rule} disabled={!view.mayChange} onEdit={edit} />
              <PageTellingRows rule={rule} disabled={!view.mayChange} onEdit={edit} />
            </>
          )}
          effect={({ rule, isNew }) => <PlatformPreview business={business} view={view} rule={rule} isNew={isNew} />}
        />
      )}
    </ConnectionsFrame>
  );
}
