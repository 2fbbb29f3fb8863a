%% Harmonics of one station
% Fits the tide with a few constituents.
function [amplitude, phase] = harmonics(time, level)
    speeds = [28.984, 30.0, 15.041]';
    A = zeros(numel(time), 2 * numel(speeds));
    for k = 1:numel(speeds)
      A(:, 2*k-1) = cosd(speeds(k) * time);
        A(:, 2*k) = sind(speeds(k) * time);
    end
    if rank(A) < size(A, 2), error('tide:rank', 'too few readings'); end
    x = A \ level;
    [amplitude, phase] = polar(x(1:2:end), x(2:2:end));
end

%% Helpers
function [r, p] = polar(c, s)
    %{
    Amplitude and phase of a pair of coefficients.
    %}
    r = hypot(c, s); ...
    p = atan2d(s, c);
    switch numel(r)
        case 0
            warning('tide:none', 'don''t know');
        otherwise
            r = r(:)';
    end
end
