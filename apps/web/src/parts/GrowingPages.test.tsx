import { fireEvent, render, screen } from '@testing-library/react';
import { GrowingPages } from './GrowingPages';

describe('pages that grow', () => {
  it('stand one below the other, and only the last leads on', () => {
    render(
      <GrowingPages
        page={({ after, isFirst, onMore }) => (
          <>
            <p>{isFirst ? 'first' : `after ${after}`}</p>
            {onMore && <button onClick={() => onMore(after === null ? 'm' : 'z')}>more</button>}
          </>
        )}
      />,
    );
    const pages = () => screen.getAllByText(/^(first|after)/).map(({ textContent }) => textContent);
    expect(pages()).toEqual(['first']);
    fireEvent.click(screen.getByText('more'));
    expect(pages()).toEqual(['first', 'after m']);
    expect(screen.getAllByText('more')).toHaveLength(1);
    fireEvent.click(screen.getByText('more'));
    expect(pages()).toEqual(['first', 'after m', 'after z']);
  });
});
