/** What is found only when things move. */
package ferry.stone.core.survey.motion;
