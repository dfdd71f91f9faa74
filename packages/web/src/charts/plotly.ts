// Only what is drawn: the core and two trace kinds, a tenth of the whole library.
import Plotly from 'plotly.js/lib/core';
import heatmap from 'plotly.js/lib/heatmap';
import scatter from 'plotly.js/lib/scatter';

Plotly.register([scatter, heatmap]);

export default Plotly;
