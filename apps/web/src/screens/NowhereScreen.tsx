import { Page } from '../parts/Page';
import { TextLink } from '../parts/TextLink';

export function NowhereScreen() {
  return (
    <Page title="There is nothing at this address">
      <p>
        <TextLink to="/">Go to the Desk</TextLink>
      </p>
    </Page>
  );
}
