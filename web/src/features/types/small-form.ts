import styled from 'styled-components';
import { inputLook } from '../../ui/field-look.ts';

/** A form of a few fields in a line. */
export const SmallForm = styled.form`
  display: flex;
  gap: 10px 12px;
  flex-wrap: wrap;
  align-items: end;
  label {
    display: grid;
    gap: 3px;
    font-size: 0.78125rem;
    font-weight: 600;
    color: var(--soft);
    min-width: 0;
  }
  ${inputLook}
`;
